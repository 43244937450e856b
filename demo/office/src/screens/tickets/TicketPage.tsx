import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useTicket } from './data'

export function TicketPage() {
  const ticket = useTicket()
  return (
    <>
      <PageHeader
        title={ticket.title}
        actions={
          <>
            <Button variant="primary" href={`/tickets/${ticket.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(ticket)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={ticket.state === 'done' ? 'success' : 'neutral'}>{ticket.state}</Badge>
        <Text muted>{ticket.assignee}</Text>
      </Card>
      <Divider />
      <Heading order={3}>History</Heading>
      {ticket.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
