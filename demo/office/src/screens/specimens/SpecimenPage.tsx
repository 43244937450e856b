import { Avatar, Badge, Card, Divider, Heading, PageHeader, Text } from '@fernhollow/yarrow'
import { ActionButton } from '~/parts'
import { t } from '~/t'
import { useSpecimen } from './data'

export function SpecimenPage() {
  const specimen = useSpecimen()
  return (
    <>
      <PageHeader
        title={specimen.name}
        actions={
          <>
            <ActionButton variant="primary" href={`/specimens/${specimen.id}/edit`}>{t('actions.edit')}</ActionButton>
            <ActionButton onClick={() => remove(specimen)}>{t('actions.remove')}</ActionButton>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={specimen.state === 'poor' ? 'success' : 'neutral'}>{specimen.state}</Badge>
        <Text muted>{specimen.bed}</Text>
      </Card>
      <Divider />
      <Heading>History</Heading>
      {specimen.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text muted>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
