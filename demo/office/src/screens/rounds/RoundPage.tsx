import { Avatar, Badge, Button, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { useRound } from './data'

export function RoundPage() {
  const round = useRound()
  return (
    <>
      <PageHeader
        title={round.name}
        actions={
          <>
            <Button variant="primary" href={`/rounds/${round.id}/edit`}>Edit</Button>
            <Button destructive onClick={() => remove(round)}>Remove</Button>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={round.state === 'done' ? 'success' : 'neutral'}>{round.state}</Badge>
        <Text>{round.gardener}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {round.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
