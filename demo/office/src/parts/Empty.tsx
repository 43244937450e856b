import { Card, Text } from '@fernhollow/yarrow'

/** What stands where there is nothing yet. */
export function Empty({ what }: { what: string }) {
  return (
    <Card>
      <Text muted>There are no {what} yet.</Text>
    </Card>
  )
}
