import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['active', 'away']

export function EditVolunteer() {
  const { values, set, submit } = useForm('volunteers')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit volunteer" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/volunteers">Cancel</Button>
          </>
        }
      >
          <TextField label="Name" value={values.name} onChange={set('name')} />
          <TextField label="Email" value={values.email} onChange={set('email')} />
          <TextField label="Since" value={values.since} onChange={set('since')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
