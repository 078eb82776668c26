import { describe, expect, it } from 'vitest'
import { changeSchema } from '../contract/reels.js'
import { editCue } from '../edits/editRecords.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { after } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { cleanChange } from './cleanChange.js'
import { isPlain, plain, plainText } from './text.js'

const spotted = after(testReel(), spotCue(testReel(), { id: 'a', category: 'FX', in: 1, out: 2 }))

describe('text', () => {
  it.each([
    ['a NUL', 'do\u0000or', 'door'],
    ['an escape', '\u001b[31mred', '[31mred'],
    ['a delete sign', 'a\u007fb', 'ab'],
    ['a C1 control', 'a\u0085b', 'ab'],
    ['the first half of a character', 'a\ud83db', 'ab'],
    ['the second half of a character', 'a\ude00b', 'ab'],
  ])('loses %s', (_, given, left) => {
    expect([isPlain(given), plain(given)]).toEqual([false, left])
  })

  it.each([
    ['line breaks and tabs', 'one\r\n\ttwo'],
    ['whole characters beyond the basic plane', '😀 𝔻oor'],
    ['other scripts, from right to left', 'دق الباب, דלת, 門'],
    ['typographic signs', '“door” – it’s…'],
  ])('keeps %s', (_, given) => {
    expect([isPlain(given), plain(given)]).toEqual([true, given])
  })

  it('is refused by the schema with what to do', () => {
    const answer = plainText(10).safeParse('a\u0000')
    expect(answer.error?.issues[0]?.message).toMatch(/control characters.*take them out/)
    expect(plainText(2).safeParse('abc').success).toBe(false)
  })

  it('is cleaned in all that a change writes, and a clean change stays the same', () => {
    const clean = expectOk(editCue(spotted, { id: 'a', fields: { words: 'door' } }))
    expect(cleanChange(clean)).toBe(clean)
    const odd = expectOk(editCue(spotted, { id: 'a', fields: { words: 'do\u0000or', notes: '\ud83d!' } }))
    const { updated } = cleanChange({ ...odd, label: 'Edit\u0007' })
    expect(updated[0]?.[1]).toMatchObject({ words: 'door', notes: '!' })
    expect(cleanChange({ ...odd, label: 'Edit\u0007' }).label).toBe('Edit')
  })

  it('can’t cross the wire unclean, whichever record and field holds it', () => {
    const odd = expectOk(editCue(spotted, { id: 'a', fields: { source: 'a\u0000' } }))
    expect(changeSchema.safeParse(odd).success).toBe(false)
    expect(changeSchema.safeParse(cleanChange(odd)).success).toBe(true)
  })
})
