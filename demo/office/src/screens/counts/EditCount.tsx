import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['draft', 'final']

export function EditCount() {
  const { values, set, submit, saving, busy } = useForm('counts')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit count" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit" {...busy(saving)}>Save</Button>
            <Button variant="ghost" href="/counts">Cancel</Button>
          </>
        }
      >
          <TextField label="Bed" value={values.bed} onChange={set('bed')} />
          <TextField label="Counted" type="date" value={values.counted} onChange={set('counted')} />
          <TextField label="Number" value={values.number} onChange={set('number')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
