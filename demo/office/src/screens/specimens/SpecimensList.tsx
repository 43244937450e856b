import { Badge, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { ActionButton, Empty } from '~/parts'
import { t } from '~/t'
import { useSpecimens } from './data'

const columns = [
  { field: 'name', header: 'Name' },
  { field: 'family', header: 'Family' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function SpecimensList() {
  const { specimens, page, pages, turn, search } = useSpecimens()
  return (
    <>
      <PageHeader title="Specimens" actions={<ActionButton variant="primary" href="/specimens/new">New specimen</ActionButton>} />
      <Card>
        <TextField label="Search specimens" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {specimens.length === 0 && <Empty what="specimens" />}
      <DataTable columns={columns}>
        {specimens.map(specimen => (
          <tr key={specimen.id}>
            <td>
              <Link subtle href={`/specimens/${specimen.id}`}>{specimen.name}</Link>
            </td>
            <td>{specimen.family}</td>
            <td>
              <Badge status={specimen.state === 'poor' ? 'success' : 'neutral'}>{specimen.state}</Badge>
            </td>
            <td>
              <ActionButton size="sm" variant="ghost" href={`/specimens/${specimen.id}/edit`}>{t('actions.edit')}</ActionButton>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type SpecimenRow = ReturnType<typeof useSpecimens>['specimens'][number]
