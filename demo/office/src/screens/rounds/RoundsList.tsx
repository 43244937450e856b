import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useRounds } from './data'

const columns = [
  { field: 'name', header: 'Name' },
  { field: 'day', header: 'Day' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function RoundsList() {
  const { rounds, page, pages, turn, search } = useRounds()
  const header = (
    <PageHeader
      title="Rounds"
      actions={
        <Button variant="primary" href="/rounds/new">Create round</Button>
      }
    />
  )
  return (
    <>
      {header}
      <Card>
        <TextField label="Search rounds" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {rounds.length === 0 && <Empty what="rounds" />}
      <DataTable columns={columns}>
        {rounds.map(round => (
          <tr key={round.id}>
            <td>
              <Link subtle href={`/rounds/${round.id}`}>{round.name}</Link>
            </td>
            <td>{round.day}</td>
            <td>
              <Badge status={round.state === 'done' ? 'success' : 'neutral'}>{round.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/rounds/${round.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type RoundRow = ReturnType<typeof useRounds>['rounds'][number]
