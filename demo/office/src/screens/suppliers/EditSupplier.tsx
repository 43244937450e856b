import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['usual', 'spare']

export function EditSupplier() {
  const { values, set, submit } = useForm('suppliers')
  return (
    <form onSubmit={submit}>
      <PageHeader title="Edit supplier" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/suppliers">Cancel</Button>
          </>
        }
      >
          <TextField label="Name" value={values.name} onChange={set('name')} />
          <TextField label="Town" value={values.town} onChange={set('town')} />
          <TextField label="Phone" value={values.phone} onChange={set('phone')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
