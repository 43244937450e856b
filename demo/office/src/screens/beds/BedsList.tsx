import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useBeds } from './data'

const columns = [
  { field: 'name', header: 'Name' },
  { field: 'house', header: 'House' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function BedsList() {
  const { beds, page, pages, turn, search } = useBeds()
  return (
    <>
      <PageHeader title="Beds" actions={<Button variant="primary" href="/beds/new">New bed</Button>} />
      <Card>
        <TextField label="Search beds" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {beds.length === 0 && <Empty what="beds" />}
      <DataTable columns={columns}>
        {beds.map(bed => (
          <tr key={bed.id}>
            <td>
              <Link subtle href={`/beds/${bed.id}`}>{bed.name}</Link>
            </td>
            <td>{bed.house}</td>
            <td>
              <Badge status={bed.state === 'resting' ? 'success' : 'neutral'}>{bed.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/beds/${bed.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type BedRow = ReturnType<typeof useBeds>['beds'][number]
