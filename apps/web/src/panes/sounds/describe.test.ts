import { LENGTH_CLASSES, parseQuery, type Sound } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import {
  channelsOf,
  hertz,
  LENGTH_NAMES,
  lengthOf,
  placeFigures,
  QUALITY_WORDS,
  shelvesSearched,
} from './describe.js'

const sound = (fields: Partial<Sound>): Sound =>
  ({
    ...{ weight: 50, brightness: 850, bite: 10, noisiness: 0, pitch: 0, loudness: -30, length: 48_000 },
    ...fields,
  }) as Sound

describe('a sound in words', () => {
  it.each([
    [480, '0.01 s'],
    [48_000, '1.00 s'],
    [9.9 * 48_000, '9.90 s'],
    [12.34 * 48_000, '12.3 s'],
    [65 * 48_000, '1:05'],
    [3600 * 48_000, '60:00'],
  ])('lasts %i samples: %s', (samples, words) => {
    expect(lengthOf(samples)).toBe(words)
  })

  it('has channels and frequencies as people say them', () => {
    expect([1, 2, 6].map(channelsOf)).toEqual(['mono', 'stereo', '6 ch'])
    expect([240.4, 999, 1000, 3449].map(hertz)).toEqual(['240 Hz', '999 Hz', '1.0 kHz', '3.4 kHz'])
  })

  it('was looked for on some shelves, or on all of them', () => {
    expect(shelvesSearched({ q: 'rain', shelves: 'a,b' }, 6)).toBe('2 of 6 shelves')
    expect(shelvesSearched({ shelves: '' }, 6)).toBe('0 of 6 shelves')
    expect([shelvesSearched({}, 6), shelvesSearched({ q: 'rain' }, 6)]).toEqual(['all shelves', ''])
  })

  it('has a bar for each quality that stays between nothing and full, whatever was measured', () => {
    for (const odd of [0, 1e-9, 1e9]) {
      const extreme = sound({
        weight: Math.min(odd, 100),
        brightness: odd,
        bite: Math.min(odd, 100),
        noisiness: Math.min(odd, 100),
        pitch: odd,
        length: odd,
        loudness: -Math.min(odd, 200),
      })
      for (const { name, part } of QUALITY_WORDS) {
        expect(part(extreme), name).toBeGreaterThanOrEqual(0)
        expect(part(extreme), name).toBeLessThanOrEqual(1)
      }
    }
    expect(QUALITY_WORDS.find(({ quality }) => quality === 'pitch')?.show(sound({ pitch: 0 }))).toBe('none')
  })

  it('falls in a class of length whose filter the search can read', () => {
    expect(LENGTH_NAMES).toHaveLength(LENGTH_CLASSES.length)
    for (const { filter } of LENGTH_NAMES) expect(parseQuery(filter).problems).toEqual([])
    expect(LENGTH_NAMES[0]?.name).toBe('under 1 s')
    expect(LENGTH_NAMES.at(-1)?.name).toBe('over 1 min')
  })
})

describe('the figures of a result', () => {
  it('give way to a long name, the least wanted first, and none is lost', () => {
    const place = (room: number) =>
      placeFigures(['16 events', '★★', '2.5 s'], room, (text) => text.length * 10)
    expect(place(300)).toEqual({ beside: ['16 events', '★★', '2.5 s'], below: [] })
    expect(place(75)).toEqual({ beside: ['★★', '2.5 s'], below: ['16 events'] })
    expect(place(49)).toEqual({ beside: [], below: ['16 events', '★★', '2.5 s'] })
    expect(place(-20)).toEqual({ beside: [], below: ['16 events', '★★', '2.5 s'] })
  })
})
