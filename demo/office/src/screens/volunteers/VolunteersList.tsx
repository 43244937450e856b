import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useVolunteers } from './data'

const columns = [
  { field: 'name', header: 'Name' },
  { field: 'email', header: 'Email' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function VolunteersList() {
  const { volunteers, page, pages, turn, search } = useVolunteers()
  return (
    <>
      <PageHeader title="Volunteers" actions={<Button variant="primary" href="/volunteers/new">New volunteer</Button>} />
      <Card>
        <TextField label="Search volunteers" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {volunteers.length === 0 && <Empty what="volunteers" />}
      <DataTable columns={columns}>
        {volunteers.map(volunteer => (
          <tr key={volunteer.id}>
            <td>
              <Link subtle href={`/volunteers/${volunteer.id}`}>{volunteer.name}</Link>
            </td>
            <td>{volunteer.email}</td>
            <td>
              <Badge status={volunteer.state === 'away' ? 'success' : 'neutral'}>{volunteer.state}</Badge>
            </td>
            <td>
              <Button variant="ghost" href={`/volunteers/${volunteer.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type VolunteerRow = ReturnType<typeof useVolunteers>['volunteers'][number]
