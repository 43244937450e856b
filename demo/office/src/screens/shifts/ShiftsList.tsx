import { Badge, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { ActionButton, Empty } from '~/parts'
import { t } from '~/t'
import { useShifts } from './data'

const columns = [
  { field: 'place', header: 'Place' },
  { field: 'starts', header: 'Starts' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function ShiftsList() {
  const { shifts, page, pages, turn, search } = useShifts()
  return (
    <>
      <PageHeader title="Shifts" actions={<ActionButton variant="primary" href="/shifts/new">New shift</ActionButton>} />
      <Card>
        <TextField label="Search shifts" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {shifts.length === 0 && <Empty what="shifts" />}
      <DataTable columns={columns}>
        {shifts.map(shift => (
          <tr key={shift.id}>
            <td>
              <Link subtle href={`/shifts/${shift.id}`}>{shift.place}</Link>
            </td>
            <td>{shift.starts}</td>
            <td>
              <Badge status={shift.state === 'taken' ? 'success' : 'neutral'}>{shift.state}</Badge>
            </td>
            <td>
              <ActionButton size="sm" variant="ghost" href={`/shifts/${shift.id}/edit`}>{t('actions.edit')}</ActionButton>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type ShiftRow = ReturnType<typeof useShifts>['shifts'][number]
