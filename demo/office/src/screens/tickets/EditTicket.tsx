import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['open', 'doing', 'done']

export function EditTicket() {
  const { values, set, submit } = useForm('tickets')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit ticket" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/tickets">Cancel</Button>
          </>
        }
      >
          <TextField label="Title" value={values.title} onChange={set('title')} />
          <TextField label="Due" type="date" value={values.due} onChange={set('due')} />
          <TextField label="Assignee" value={values.assignee} onChange={set('assignee')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
