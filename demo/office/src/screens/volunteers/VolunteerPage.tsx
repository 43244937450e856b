import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useVolunteer } from './data'

export function VolunteerPage() {
  const volunteer = useVolunteer()
  return (
    <>
      <PageHeader
        title={volunteer.name}
        actions={
          <>
            <Button variant="primary" href={`/volunteers/${volunteer.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(volunteer)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={volunteer.state === 'away' ? 'success' : 'neutral'}>{volunteer.state}</Badge>
        <Text muted>{volunteer.since}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {volunteer.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
