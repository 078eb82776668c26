import type { PlaceId, Room } from '../../reel/inserts.js'

/** What a place or a device does to sound at its full amount. */
export interface PlaceSpec {
  readonly name: string
  /** What lies below and above is lost: Hz, and how many sections of second order. */
  readonly low: readonly [hz: number, sections: number]
  readonly high: readonly [hz: number, sections: number]
  /** Resonances. */
  readonly bells: readonly (readonly [hz: number, db: number, q: number])[]
  /** It has one loudspeaker, so that what it plays is one sound, and not left and right. */
  readonly mono: boolean
  /** Decibels by which it is overdriven, and how lopsided, 0 to 1. */
  readonly drive: number
  readonly lopsided: number
  /** Its own noise while it sounds, dBFS; null for none. Crackles a second. */
  readonly noise: number | null
  readonly crackle: number
  /** It is keyed: a click when it opens, a burst of noise when it closes. */
  readonly keyed: boolean
  /** The room that it stands in, the level of that room and of the sound itself, dB. */
  readonly room: Room | null
  readonly wet: number
  readonly dry: number
  /** Decibels by which moving air lets it swell and fade. */
  readonly drift: number
  /** Its pitch wavers: how often a second, and by what part of the speed at most. */
  readonly waver: readonly [hz: number, part: number]
  /** Metres to it, at first. */
  readonly distance: number
}

const PLAIN: Omit<PlaceSpec, 'name'> = {
  ...{
    low: [20, 0],
    high: [20_000, 0],
    bells: [],
    mono: false,
    drive: 0,
    lopsided: 0,
    noise: null,
    crackle: 0,
  },
  ...{ keyed: false, room: null, wet: -60, dry: 0, drift: 0, waver: [1, 0], distance: 0 },
}

/**
 * The places and devices that ship with Yodel. The telephone keeps inside of the band of ITU-T G.712; all others are invented by
 * ear and measure of things of their kind (common practice).
 */
export const PLACE_SPECS: Readonly<Record<PlaceId, PlaceSpec>> = {
  telephone: {
    ...{ ...PLAIN, name: 'Telephone', low: [230, 2], high: [3570, 6], mono: true },
    ...{ drive: 6, lopsided: 0.2, noise: -62 },
  },
  intercom: {
    ...{ ...PLAIN, name: 'Intercom', low: [380, 2], high: [3000, 2], bells: [[1100, 7, 2]], mono: true },
    ...{ drive: 12, lopsided: 0.3, noise: -54 },
  },
  handheld: {
    ...{ ...PLAIN, name: 'Hand-held radio', low: [350, 2], high: [2800, 3], mono: true },
    ...{ bells: [[1700, 6, 1.5]], drive: 20, lopsided: 0.4, noise: -44, keyed: true },
  },
  tannoy: {
    ...{ ...PLAIN, name: 'Loudspeaker in a hall', low: [240, 2], high: [4800, 2] },
    bells: [
      [700, 4, 2],
      [1900, 5, 3],
    ],
    ...{ drive: 9, lopsided: 0.2, noise: -64, room: 'hall', wet: -4, dry: -4, distance: 20 },
  },
  television: {
    ...{ ...PLAIN, name: 'Small television in the next room', low: [170, 2], high: [1600, 1], mono: true },
    ...{ bells: [[420, 4, 1.4]], drive: 3, room: 'parlour', wet: -7, dry: -5, distance: 4 },
  },
  door: {
    ...{ ...PLAIN, name: 'Behind a door', low: [60, 1], high: [650, 1], bells: [[190, 3, 1.2]] },
    ...{ room: 'corridor', wet: -16, dry: -3, distance: 2 },
  },
  wall: {
    ...{ ...PLAIN, name: 'Through a wall', low: [45, 1], high: [230, 2], bells: [[90, 4, 1.5]] },
    ...{ room: 'parlour', wet: -18, dry: -2, distance: 3 },
  },
  water: {
    ...{
      ...PLAIN,
      name: 'Under water',
      high: [480, 2],
      drift: 2,
      room: 'tank',
      wet: -6,
      dry: -3,
      waver: [0.31, 0.0016],
    },
    bells: [
      [160, 4, 2],
      [340, 5, 3],
    ],
  },
  valley: {
    ...{ ...PLAIN, name: 'Far across a valley', low: [110, 1], drift: 4, room: 'valley', wet: -7, dry: -3 },
    distance: 300,
  },
  car: {
    ...{ ...PLAIN, name: 'In a car', low: [45, 1], high: [7000, 1], room: 'cabin', wet: -5, dry: -2 },
    bells: [
      [95, 5, 1.5],
      [240, -3, 1],
    ],
  },
  helmet: {
    ...{ ...PLAIN, name: 'In a helmet', low: [140, 1], high: [3300, 1], room: 'helmet', wet: -3, dry: -2 },
    bells: [
      [460, 7, 2.5],
      [1500, 5, 3],
    ],
    mono: true,
  },
  record: {
    ...{ ...PLAIN, name: 'Old record', low: [190, 2], high: [5200, 2], bells: [[1300, 3, 1]], mono: true },
    // Of a disc that turns 33 1/3 times a minute, its hole a little beside the middle.
    ...{ drive: 7, lopsided: 0.5, noise: -46, crackle: 9, waver: [100 / 180, 0.0025] },
  },
}
