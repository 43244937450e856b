import { Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { ActionButton } from '~/parts'
import { t } from '~/t'
import { useForm } from '~/form'

const states = ['thriving', 'fair', 'poor']

export function EditSpecimen() {
  const { values, set, submit } = useForm('specimens')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit specimen" />
      <Card
        footer={
          <>
            <ActionButton variant="primary" type="submit">{t('actions.save')}</ActionButton>
            <ActionButton variant="ghost" href="/specimens">{t('actions.cancel')}</ActionButton>
          </>
        }
      >
          <TextField label="Name" value={values.name} onChange={set('name')} />
          <TextField label="Family" value={values.family} onChange={set('family')} />
          <TextField label="Bed" value={values.bed} onChange={set('bed')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
