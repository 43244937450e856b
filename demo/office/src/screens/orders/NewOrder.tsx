import { Button, Card, PageHeader, Select, TextField } from '@fernhollow/yarrow'
import { useForm } from '~/form'

const states = ['sent', 'arrived']

export function NewOrder() {
  const { values, set, submit } = useForm('orders')
  return (
    <form onSubmit={submit}>
      <PageHeader title="New order" />
      <Card
        footer={
          <>
            <Button variant="primary" type="submit">Save</Button>
            <Button variant="ghost" href="/orders">Cancel</Button>
          </>
        }
      >
          <TextField label="Supplier" value={values.supplier} onChange={set('supplier')} />
          <TextField label="Ordered" type="date" value={values.ordered} onChange={set('ordered')} />
          <TextField label="Total" value={values.total} onChange={set('total')} />
          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
