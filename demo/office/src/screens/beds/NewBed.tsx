import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['planted', 'resting']

export function NewBed() {
  const { values, set, submit } = useForm('beds')
  return (
    <form onSubmit={submit}>
      <PageHeader title="New bed" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/beds">Cancel</Button>
          </>
        }
      >
          <TextField label="Name" value={values.name} onChange={set('name')} />
          <TextField label="House" value={values.house} onChange={set('house')} />
          <TextField label="Light" value={values.light} onChange={set('light')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
