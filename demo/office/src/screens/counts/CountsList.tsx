import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useCounts } from './data'

const columns = [
  { field: 'bed', header: 'Bed' },
  { field: 'counted', header: 'Counted' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function CountsList() {
  const { counts, page, pages, turn, search } = useCounts()
  const header = (
    <PageHeader
      title="Counts"
      actions={
        <Button variant="primary" href="/counts/new">New count</Button>
      }
    />
  )
  return (
    <>
      {header}
      <Card>
        <TextField label="Search counts" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {counts.length === 0 && <Empty what="counts" />}
      <DataTable columns={columns}>
        {counts.map(count => (
          <tr key={count.id}>
            <td>
              <Link subtle href={`/counts/${count.id}`}>{count.bed}</Link>
            </td>
            <td>{count.counted}</td>
            <td>
              <Badge status={count.state === 'final' ? 'success' : 'neutral'}>{count.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/counts/${count.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type CountRow = ReturnType<typeof useCounts>['counts'][number]
