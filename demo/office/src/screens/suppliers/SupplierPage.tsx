import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useSupplier } from './data'

export function SupplierPage() {
  const supplier = useSupplier()
  return (
    <>
      <PageHeader
        title={supplier.name}
        actions={
          <>
            <Button variant="primary" href={`/suppliers/${supplier.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(supplier)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={supplier.state === 'spare' ? 'success' : 'neutral'}>{supplier.state}</Badge>
        <Text muted>{supplier.phone}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {supplier.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
