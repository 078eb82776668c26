import type { ComponentProps } from 'react'
import { Choice } from './Choice.js'
import { Row } from './Row.js'

/** A row of settings with one of a few values in it, as wide as there is room. */
export function ChoiceRow<T extends string>({
  name,
  ...choice
}: { name: string } & Omit<ComponentProps<typeof Choice<T>>, 'className'>) {
  return (
    <Row name={name}>
      <Choice {...choice} className="w-full" />
    </Row>
  )
}
