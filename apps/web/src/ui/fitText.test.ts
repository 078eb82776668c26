import { expect, it } from 'vitest'
import { fitText } from './fitText.js'

/** Ten pixels a character. */
const fit = (text: string, width: number, lines = 1): string =>
  fitText(text, '', width, lines, (part) => [...part].length * 10)

it('breaks between words, and takes of the rest what goes on the last line', () => {
  expect(fit('Ground frame lever, set 2', 70, 4)).toBe('Ground\nframe\nlever,\nset 2')
  expect(fit('Ground frame lever, set 2', 70, 2)).toBe('Ground\nfram… 2')
  expect(fit('Lever nine thrown, frame clanks', 150)).toBe('Lever nine thr…')
})
it('leaves alone what fits, cuts a word that is too wide by itself, and never half of a pair', () => {
  expect(fit('Boots', 50)).toBe('Boots')
  expect(fit('Untrennbareswort bleibt', 60, 2)).toBe('Untre…\nbleibt')
  expect(fit('🜂🜃🜄🜁🜂', 40)).toBe('🜂🜃🜄…')
  expect(fit('', 40, 3)).toBe('')
})
it('keeps the number of a take where there is room for some of its name', () => {
  expect(fit('Boot on boards 12', 110)).toBe('Boot on… 12')
  expect(fit('Ground frame lever, set 2', 100)).toBe('Ground… 2')
  expect(fit('Ground frame lever, set 2', 110, 2)).toBe('Ground\nframe le… 2')
  expect(fit('Boot on boards 12', 60)).toBe('Boot…')
})
