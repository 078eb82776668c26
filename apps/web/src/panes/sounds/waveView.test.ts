import type { Preparation, Sound } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { markPlaces, moveMark, scrolled, zoomed } from './waveView.js'

const sound = { length: 96_000, sync: 12_000 } as Sound
const plain = {
  in: null,
  out: null,
  sync: null,
  fadeIn: null,
  fadeOut: null,
  speed: 1,
} as unknown as Preparation
const prepared = (fields: Partial<Preparation>): Preparation => ({ ...plain, ...fields })

describe('the view of a recording', () => {
  it('comes closer around a sample, which stays where it is', () => {
    expect(zoomed([0, 96_000], 96_000, 0.5, 24_000)).toEqual([12_000, 60_000])
  })

  it('never shows what is not there, nor less than ten milliseconds', () => {
    expect(zoomed([0, 48_000], 96_000, 4)).toEqual([0, 96_000])
    const [from, to] = zoomed([1000, 1960], 96_000, 0.01)
    expect(to - from).toBe(480)
  })

  it('is moved up to the ends', () => {
    expect(scrolled([10_000, 20_000], 96_000, 500)).toEqual([10_500, 20_500])
    expect(scrolled([10_000, 20_000], 96_000, -50_000)).toEqual([0, 10_000])
    expect(scrolled([10_000, 20_000], 96_000, 1e6)).toEqual([86_000, 96_000])
  })
})

describe('the marks of a recording', () => {
  it('stand at its ends and its attack until it is prepared', () => {
    expect(markPlaces(plain, sound)).toEqual({ in: 0, out: 96_000, sync: 12_000, fadeIn: 0, fadeOut: 96_000 })
  })

  it('show fades over what is played: at double speed a fade takes twice the recording', () => {
    const at = markPlaces(
      prepared({ speed: 2, fadeIn: 4800, fadeOut: 2400, in: 1000 } as Partial<Preparation>),
      sound,
    )
    expect(at).toMatchObject({ fadeIn: 10_600, fadeOut: 91_200 })
  })

  it('has the sync point of what is taken within it', () => {
    expect(markPlaces(prepared({ in: 20_000 } as Partial<Preparation>), sound).sync).toBe(20_000)
  })

  it('keeps in and out a millisecond apart, and forgets them at the ends', () => {
    const taken = prepared({ in: 10_000, out: 20_000 } as Partial<Preparation>)
    expect(moveMark('in', 50_000, taken, sound)).toEqual({ in: 19_952 })
    expect(moveMark('out', 0, taken, sound)).toEqual({ out: 10_048 })
    expect(moveMark('in', 0, taken, sound)).toEqual({ in: null })
    expect(moveMark('out', 95_999, taken, sound)).toEqual({ out: null })
  })

  it('reads back fades and sync where it shows them', () => {
    const taken = prepared({ in: 10_000, out: 60_000, speed: 2 } as Partial<Preparation>)
    for (const mark of ['fadeIn', 'fadeOut', 'sync'] as const) {
      const moved = prepared({ ...taken, ...moveMark(mark, 30_000, taken, sound) })
      expect(markPlaces(moved, sound)[mark]).toBe(30_000)
    }
  })

  it('has no fade before the sound begins or after it ends', () => {
    const taken = prepared({ in: 10_000, out: 60_000 } as Partial<Preparation>)
    expect(moveMark('fadeIn', 5000, taken, sound)).toEqual({ fadeIn: 0 })
    expect(moveMark('fadeOut', 80_000, taken, sound)).toEqual({ fadeOut: 0 })
  })
})
