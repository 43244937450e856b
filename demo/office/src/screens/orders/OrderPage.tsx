import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useOrder } from './data'

export function OrderPage() {
  const order = useOrder()
  return (
    <>
      <PageHeader
        title={order.supplier}
        actions={
          <>
            <Button variant="primary" href={`/orders/${order.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(order)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={order.state === 'arrived' ? 'success' : 'neutral'}>{order.state}</Badge>
        <Text muted>{order.total}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {order.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
