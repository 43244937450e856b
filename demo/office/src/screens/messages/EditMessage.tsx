import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['new', 'read']

export function EditMessage() {
  const { values, set, submit } = useForm('messages')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit message" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/messages">Cancel</Button>
          </>
        }
      >
          <TextField label="Subject" value={values.subject} onChange={set('subject')} />
          <TextField label="Sender" value={values.sender} onChange={set('sender')} />
          <TextField label="Received" value={values.received} onChange={set('received')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
