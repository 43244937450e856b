import { Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { ActionButton } from '~/parts'
import { t } from '~/t'
import { useForm } from '~/form'

const states = ['open', 'taken']

export function EditShift() {
  const { values, set, submit } = useForm('shifts')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit shift" />
      <Card
        footer={
          <>
            <ActionButton variant="primary" type="submit">{t('actions.save')}</ActionButton>
            <ActionButton variant="ghost" href="/shifts">{t('actions.cancel')}</ActionButton>
          </>
        }
      >
          <TextField label="Place" value={values.place} onChange={set('place')} />
          <TextField label="Starts" type="date" value={values.starts} onChange={set('starts')} />
          <TextField label="Volunteer" value={values.volunteer} onChange={set('volunteer')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
