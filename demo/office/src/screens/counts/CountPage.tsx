import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useCount } from './data'

export function CountPage() {
  const count = useCount()
  return (
    <>
      <PageHeader
        title={count.bed}
        actions={
          <>
            <Button variant="primary" href={`/counts/${count.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(count)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={count.state === 'final' ? 'success' : 'neutral'}>{count.state}</Badge>
        <Text muted>{count.number}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {count.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
