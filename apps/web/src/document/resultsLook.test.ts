import { expect, it } from 'vitest'
import { columnWidth, PLAIN_LOOK, readLook } from './resultsLook.js'

it('a look comes back as it was left, with columns that were added since then at the end', () => {
  const { order } = PLAIN_LOOK
  const kept = { rows: 'table', order: ['length', 'gone', 'name'], hidden: ['name'], widths: { length: 90 } }
  const look = readLook(JSON.stringify(kept))
  expect(look).toMatchObject({ rows: 'table', hidden: ['name'] })
  expect(look.order.slice(0, 2)).toEqual(['length', 'name'])
  expect(new Set(look.order)).toEqual(new Set(order))
  expect([columnWidth(look, 'length'), columnWidth(look, 'channels')]).toEqual([90, 66])
  expect([readLook(null), readLook('{'), readLook('null')]).toEqual([PLAIN_LOOK, PLAIN_LOOK, PLAIN_LOOK])
})

it('no column becomes so narrow that it can’t be taken hold of', () => {
  expect(columnWidth({ widths: { name: 3 } }, 'name')).toBe(34)
})
