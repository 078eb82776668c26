import { describe, expect, it } from 'vitest'
import { classesWithin, facetTokens, LENGTH_CLASSES, lengthClass, tagList } from './facets.js'

describe('what narrows a search', () => {
  it('is one token a field of a sound, and one a tag', () => {
    const sound = {
      ...{ shelfId: 'boots', category: 'Doors, wood', licence: 'CC BY 4.0', tags: 'heavy,  old lock ,,' },
      ...{ channels: 2, sampleRate: 96_000, length: 5 * 48_000, rating: 4 },
    }
    const tokens = facetTokens(sound)
    expect(tokens).toEqual(expect.arrayContaining(['=sboots', '=n2', '=k96000', '=d2', '=r4']))
    expect(tokens.filter((token) => token.startsWith('=t'))).toHaveLength(2)
    // None of them could be a word, nor be split by the index.
    for (const token of tokens) expect(token).toMatch(/^=[a-z][^\s]*$/)
  })

  it('parts tags by commas', () => {
    expect(tagList(' a, b c ,,')).toEqual(['a', 'b c'])
    expect(tagList('')).toEqual([])
  })

  it.each([
    [0, 0],
    [0.999, 0],
    [1, 1],
    [9.9, 2],
    [59.9, 3],
    [60, 4],
    [86_400, 4],
  ])('has %d seconds in class %i', (seconds, wanted) => {
    expect(lengthClass(seconds)).toBe(wanted)
  })

  it('finds the classes that a range of lengths touches, each length in one of them', () => {
    expect(classesWithin([null, null])).toEqual([0, 1, 2, 3, 4])
    expect(classesWithin([3, null])).toEqual([2, 3, 4])
    expect(classesWithin([null, 0.5])).toEqual([0])
    for (let least = 0; least < 70; least += 0.7) {
      for (const most of [least + 0.1, least + 5, null]) {
        const classes = classesWithin([least, most])
        for (const time of [least, most ?? 1000, (least + (most ?? 1000)) / 2]) {
          expect(classes).toContain(lengthClass(time))
        }
      }
    }
    expect(LENGTH_CLASSES.at(-1)).toBe(Infinity)
  })
})
