import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['planned', 'done']

export function NewRound() {
  const { values, set, submit, saving, busy } = useForm('rounds')
  return (
    <form onSubmit={submit}>
      <PageHeader title="New round" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit" {...busy(saving)}>Save</Button>
            <Button variant="ghost" href="/rounds">Cancel</Button>
          </>
        }
      >
          <TextField label="Name" value={values.name} onChange={set('name')} />
          <TextField label="Day" type="date" value={values.day} onChange={set('day')} />
          <TextField label="Gardener" value={values.gardener} onChange={set('gardener')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
