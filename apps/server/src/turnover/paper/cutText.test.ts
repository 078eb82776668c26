import { describe, expect, it } from 'vitest'
import { cutText } from './cutText.js'

const upTo =
  (letters: number) =>
  (text: string): boolean =>
    text.trimEnd().length <= letters

describe('a text that is cut to fit', () => {
  it.each([
    ['slow and heavy', 20, ['slow and heavy', '']],
    ['slow and heavy', 9, ['slow and', 'heavy']],
    ['slow and\nheavy', 8, ['slow and', 'heavy']],
    ['wheelbarrow', 5, ['wheel', 'barrow']],
    ['门门门', 2, ['门门', '门']],
    ['x', 0, ['x', '']],
  ])('%s to %i letters', (text, letters, parts) => expect(cutText(text, upTo(letters))).toEqual(parts))

  it('comes whole out of its parts, whatever the room', () => {
    const text =
      'Rain on tin, far; then nearer, with a long gutter and ausserordentlichelangewoerter at its end.'
    for (let room = 1; room < text.length; room++) {
      const parts: string[] = []
      for (let rest = text; rest !== '';) {
        const [here, after] = cutText(rest, upTo(room))
        parts.push(here)
        rest = after
      }
      expect(parts.join('').replace(/\s/g, '')).toBe(text.replace(/\s/g, ''))
      expect(parts.every(upTo(room))).toBe(true)
    }
  })
})
