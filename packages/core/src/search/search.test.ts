import { describe, expect, it } from 'vitest'
import { classesWithin, facetTokens, lengthClass } from './facets.js'
import { englishTerms, OTHER_LANGUAGES, translationsOf } from './otherLanguages.js'
import { parseQuery } from './query.js'
import { plainWord, plainWords, slug, splitName } from './words.js'

describe('words of names', () => {
  it('are split as people write them', () => {
    expect(splitName('DOOR_WOOD-Creak_03.wav')).toBe('DOOR WOOD Creak 03')
    expect(splitName('LEVR_GroundFrameLever7')).toBe('LEVR Ground Frame Lever 7')
    expect(splitName('Škoda_öffnet')).toBe('Škoda öffnet')
  })
  it('are compared in small letters without accents', () => {
    expect(plainWord('Tür')).toBe('tur')
    expect(plainWord('Straße')).toBe('strasse')
    expect(plainWord('cœur')).toBe('coeur')
    expect(plainWords(" o'Brien | 3.wav Éclair:* & ")).toEqual(['o', 'brien', '3', 'wav', 'eclair'])
    expect(slug('Footsteps & Cloth')).toBe('footsteps-cloth')
  })
})

describe('a typed search', () => {
  const term = (word: string, more: object = {}): object => ({
    words: [word],
    phrase: false,
    without: false,
    ...more,
  })
  it('is words, phrases and exclusions', () => {
    expect(parseQuery('Door "wooden hatch" -creak').terms).toEqual([
      term('door'),
      { words: ['wooden', 'hatch'], phrase: true, without: false },
      term('creak', { without: true }),
    ])
    expect(parseQuery('"door" co-op').terms).toEqual([term('door', { phrase: true }), term('co'), term('op')])
    expect(parseQuery('"half typed').terms).toEqual([
      { words: ['half', 'typed'], phrase: true, without: false },
    ])
  })
  it('is filters by field', () => {
    expect(
      parseQuery(
        'length<2 channels:stereo rate:44.1 category:"Footsteps & Cloth" rating>=3 added:week used:show',
      ).filters,
    ).toEqual({
      length: [null, 2],
      channels: 2,
      sampleRate: 44_100,
      category: 'footsteps-cloth',
      rating: 3,
      addedDays: 7,
      used: 'show',
    })
    expect(parseQuery('length:1-3').filters.length).toEqual([1, 3])
    expect(parseQuery('length>1 length<3,5').filters.length).toEqual([1, 3.5])
    expect(parseQuery('licence:CC0 shelf:boots tag:rusty').filters).toEqual({
      licence: 'cc0',
      shelf: 'boots',
      tag: 'rusty',
    })
  })
  it('says which filter it does not understand, and takes other words with colons as words', () => {
    expect(parseQuery('rating:9 used:sometimes door').problems).toEqual([
      'rating:9: ratings are 1 to 5',
      'used:sometimes: write used:show, used:never or used:recent',
    ])
    expect(parseQuery('scene:4').terms).toEqual([term('scene'), term('4')])
  })
  it('survives anything', () => {
    for (const odd of [
      '',
      '"',
      '-',
      '--',
      ':',
      'a:',
      '-"',
      '\0',
      '🦉',
      '!|&()',
      `${'x'.repeat(5000)}`,
      'length<',
      '"" ""',
    ])
      expect(() => parseQuery(odd)).not.toThrow()
    expect(parseQuery('-').terms).toEqual([])
    expect(parseQuery('a '.repeat(100)).terms).toHaveLength(12)
  })
})

describe('words of other languages', () => {
  it('cover some 400 terms in five languages', () => {
    expect(englishTerms().length).toBeGreaterThanOrEqual(400)
    expect(OTHER_LANGUAGES).toHaveLength(5)
  })
  it.each([
    ['Tür', 'door', 'German'],
    ['porte', 'door', 'French'],
    ['lluvia', 'rain', 'Spanish'],
    ['passi', 'footsteps', 'Italian'],
    ['voetstap', 'footstep', 'Dutch'],
    ['SCHRITTE', 'footsteps', 'German'],
  ] as const)('%s means %s (%s)', (word, english, language) => {
    expect(translationsOf(word)).toContainEqual({ english, language })
  })
  it('give nothing for a word they do not know', () => {
    expect(translationsOf('xyzzy')).toEqual([])
  })
})

describe('facets', () => {
  it('are tokens of every field', () => {
    const tokens = facetTokens({
      shelfId: 'ab',
      category: 'Foot Steps',
      licence: 'CC0 1.0',
      tags: 'rusty, very old',
      channels: 2,
      sampleRate: 48_000,
      length: 96_000,
      rating: 3,
    })
    expect(tokens).toEqual([
      '=sab',
      '=cfoot-steps',
      '=lcc0-1-0',
      '=n2',
      '=k48000',
      '=d1',
      '=r3',
      '=trusty',
      '=tvery-old',
    ])
  })
  it('class lengths with the upper bound outside, and find the classes of a range', () => {
    expect([0, 0.99, 1, 2.9, 3, 60, 9000].map(lengthClass)).toEqual([0, 0, 1, 1, 2, 4, 4])
    expect(classesWithin([null, 2])).toEqual([0, 1])
    expect(classesWithin([5, null])).toEqual([2, 3, 4])
    expect(classesWithin([1, 10])).toEqual([1, 2, 3])
  })
})
