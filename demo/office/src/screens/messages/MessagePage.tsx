import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useMessage } from './data'

export function MessagePage() {
  const message = useMessage()
  return (
    <>
      <PageHeader
        title={message.subject}
        actions={
          <>
            <Button variant="primary" href={`/messages/${message.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(message)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={message.state === 'read' ? 'success' : 'neutral'}>{message.state}</Badge>
        <Text muted>{message.received}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {message.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
