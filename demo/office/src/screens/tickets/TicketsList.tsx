import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useTickets } from './data'

const columns = [
  { field: 'title', header: 'Title' },
  { field: 'due', header: 'Due' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function TicketsList() {
  const { tickets, page, pages, turn, search } = useTickets()
  return (
    <>
      <PageHeader title="Tickets" actions={<Button variant="primary" href="/tickets/new">New ticket</Button>} />
      <Card>
        <TextField label="Search tickets" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {tickets.length === 0 && <Empty what="tickets" />}
      <DataTable columns={columns}>
        {tickets.map(ticket => (
          <tr key={ticket.id}>
            <td>
              <Link subtle href={`/tickets/${ticket.id}`}>{ticket.title}</Link>
            </td>
            <td>{ticket.due}</td>
            <td>
              <Badge status={ticket.state === 'done' ? 'success' : 'neutral'}>{ticket.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/tickets/${ticket.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type TicketRow = ReturnType<typeof useTickets>['tickets'][number]
