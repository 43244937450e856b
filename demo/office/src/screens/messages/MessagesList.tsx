import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useMessages } from './data'

const columns = [
  { field: 'subject', header: 'Subject' },
  { field: 'sender', header: 'Sender' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function MessagesList() {
  const { messages, page, pages, turn, search } = useMessages()
  return (
    <>
      <PageHeader title="Messages" actions={<Button variant="primary" href="/messages/new">New message</Button>} />
      <Card>
        <TextField label="Search messages" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {messages.length === 0 && <Empty what="messages" />}
      <DataTable columns={columns}>
        {messages.map(message => (
          <tr key={message.id}>
            <td>
              <Link subtle href={`/messages/${message.id}`}>{message.subject}</Link>
            </td>
            <td>{message.sender}</td>
            <td>
              <Badge status={message.state === 'read' ? 'success' : 'neutral'}>{message.state}</Badge>
            </td>
            <td>
              <button onClick={() => edit(message)}>Edit</button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type MessageRow = ReturnType<typeof useMessages>['messages'][number]
