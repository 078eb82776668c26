import { expect, it } from 'vitest'
import { moveColumn } from './moveColumn.js'

it.each([
  ['a', 'c', 'bcad'],
  ['d', 'a', 'dabc'],
  ['b', 'b', 'abcd'],
  ['x', 'b', 'abcd'],
])('column %s is put where %s is', (key, to, order) => {
  expect(moveColumn([...'abcd'], key, to).join('')).toBe(order)
})
