import { Avatar, Badge, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { ActionButton } from '~/parts'
import { t } from '~/t'
import { useShift } from './data'

export function ShiftPage() {
  const shift = useShift()
  return (
    <>
      <PageHeader
        title={shift.place}
        actions={
          <>
            <ActionButton variant="primary" href={`/shifts/${shift.id}/edit`}>{t('actions.edit')}</ActionButton>
            <ActionButton destructive onClick={() => remove(shift)}>{t('actions.remove')}</ActionButton>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={shift.state === 'taken' ? 'success' : 'neutral'}>{shift.state}</Badge>
        <Text muted>{shift.volunteer}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {shift.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
