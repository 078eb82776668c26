import { expect, it } from 'vitest'
import { hyphenated } from './hyphenated.js'

it('lets long words of the trade break where they may, in any case, and leaves all else', () => {
  expect(hyphenated('Backgrounds 1').split('\u00AD')).toEqual(['Back', 'grounds 1'])
  expect(hyphenated('FOOTSTEPS, ambience')).toBe('FOOT\u00ADSTEPS, ambi\u00ADence')
  expect(hyphenated('Train 2')).toBe('Train 2')
})
