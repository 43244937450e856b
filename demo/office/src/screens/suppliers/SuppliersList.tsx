import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useSuppliers } from './data'

const columns = [
  { field: 'name', header: 'Name' },
  { field: 'town', header: 'Town' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function SuppliersList() {
  const { suppliers, page, pages, turn, search } = useSuppliers()
  return (
    <>
      <PageHeader title="Suppliers" actions={<Button variant="primary" href="/suppliers/new">New supplier</Button>} />
      <Card>
        <TextField label="Search suppliers" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {suppliers.length === 0 && <Empty what="suppliers" />}
      <DataTable columns={columns}>
        {suppliers.map(supplier => (
          <tr key={supplier.id}>
            <td>
              <Link href={`/suppliers/${supplier.id}`}>{supplier.name}</Link>
            </td>
            <td>{supplier.town}</td>
            <td>
              <Badge status={supplier.state === 'spare' ? 'success' : 'neutral'}>{supplier.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/suppliers/${supplier.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type SupplierRow = ReturnType<typeof useSuppliers>['suppliers'][number]
