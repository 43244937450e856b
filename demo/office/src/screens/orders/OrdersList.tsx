import { Badge, Button, Card, DataTable, Link, PageHeader, Pagination, TextField } from '@fernhollow/yarrow'
import { Empty } from '~/parts'
import { useOrders } from './data'

const columns = [
  { field: 'supplier', header: 'Supplier' },
  { field: 'ordered', header: 'Ordered' },
  { field: 'state', header: 'State' },
  { field: 'actions', header: '' },
]

export function OrdersList() {
  const { orders, page, pages, turn, search } = useOrders()
  return (
    <>
      <PageHeader title="Orders" actions={<Button href="/orders/new">New order</Button>} />
      <Card>
        <TextField label="Search orders" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {orders.length === 0 && <Empty what="orders" />}
      <DataTable columns={columns}>
        {orders.map(order => (
          <tr key={order.id}>
            <td>
              <Link subtle href={`/orders/${order.id}`}>{order.supplier}</Link>
            </td>
            <td>{order.ordered}</td>
            <td>
              <Badge status={order.state === 'arrived' ? 'success' : 'neutral'}>{order.state}</Badge>
            </td>
            <td>
              <Button size="sm" variant="ghost" href={`/orders/${order.id}/edit`}>Edit</Button>
            </td>
          </tr>
        ))}
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}

export type OrderRow = ReturnType<typeof useOrders>['orders'][number]
