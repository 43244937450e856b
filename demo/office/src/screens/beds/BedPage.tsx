import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useBed } from './data'

export function BedPage() {
  const bed = useBed()
  return (
    <>
      <PageHeader
        title={bed.name}
        actions={
          <>
            <Button variant="primary" href={`/beds/${bed.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(bed)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={bed.state === 'resting' ? 'success' : 'neutral'}>{bed.state}</Badge>
        <Text muted>{bed.light}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {bed.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
