import { PLACE_SPECS, PLACES, ROOM_SPECS, ROOMS, type Effect, type Insert } from '@yodel/core'

/** How one setting of a treatment is shown and pulled. */
export interface SettingRow {
  readonly field: string
  readonly name: string
  readonly unit: string
  readonly low: number
  readonly high: number
  readonly step: number
  /** Runs by octaves from this frequency. */
  readonly octaves?: number
}

const hertz = (field: string, name: string, low = 20): SettingRow => ({
  field,
  name,
  unit: 'Hz',
  low,
  high: 20_000,
  step: 1,
  octaves: 20,
})
const decibels = (field: string, name: string, low = -24, high = 24): SettingRow => ({
  field,
  name,
  unit: 'dB',
  low,
  high,
  step: 0.5,
})
const milliseconds = (field: string, name: string, low: number, high: number): SettingRow => ({
  field,
  name,
  unit: 'ms',
  low,
  high,
  step: 1,
})
const width = (field: string, name: string): SettingRow => ({
  field,
  name,
  unit: 'Q',
  low: 0.1,
  high: 16,
  step: 0.1,
})

/** The settings of each kind of treatment in the order in which they are shown; rooms and places are choices of their own. */
export const SETTING_ROWS: Readonly<Record<Effect, readonly SettingRow[]>> = {
  equaliser: [
    hertz('highPass', 'High-pass', 0),
    hertz('lowHz', 'Low, from'),
    decibels('lowDb', 'Low'),
    hertz('firstHz', 'First, at'),
    decibels('firstDb', 'First'),
    width('firstQ', 'First, width'),
    hertz('secondHz', 'Second, at'),
    decibels('secondDb', 'Second'),
    width('secondQ', 'Second, width'),
    hertz('highHz', 'High, from'),
    decibels('highDb', 'High'),
    hertz('lowPass', 'Low-pass', 0),
  ],
  compressor: [
    decibels('threshold', 'Threshold', -60, 0),
    { field: 'ratio', name: 'Ratio', unit: ': 1', low: 1, high: 20, step: 0.1 },
    milliseconds('attack', 'Attack', 0.5, 200),
    milliseconds('release', 'Release', 5, 2000),
    decibels('knee', 'Knee', 0, 24),
    decibels('makeUp', 'Make-up', 0, 24),
  ],
  limiter: [decibels('ceiling', 'Ceiling', -24, 0), milliseconds('release', 'Release', 5, 2000)],
  reverb: [
    decibels('wet', 'Room', -60, 12),
    decibels('dry', 'Sound', -60, 0),
    milliseconds('preDelay', 'After', 0, 250),
  ],
  delay: [
    milliseconds('time', 'Every', 1, 2000),
    { field: 'feedback', name: 'Again', unit: '', low: 0, high: 0.95, step: 0.01 },
    decibels('wet', 'Repeats', -60, 12),
    hertz('lowPass', 'Low-pass'),
  ],
  place: [
    { field: 'amount', name: 'Amount', unit: '', low: 0, high: 1, step: 0.01 },
    { field: 'size', name: 'Size', unit: '×', low: 0.5, high: 2, step: 0.05 },
    { field: 'distance', name: 'Distance', unit: 'm', low: 0, high: 2000, step: 1, octaves: 1 },
    { field: 'broken', name: 'Broken', unit: '', low: 0, high: 1, step: 0.01 },
  ],
}

/** The settings of a piece of treatment that do something: a telephone has no size, and a door cannot break. */
export function rowsOf(insert: Insert): readonly SettingRow[] {
  const rows = SETTING_ROWS[insert.effect]
  if (insert.effect !== 'place') return rows
  const { room, drive, noise } = PLACE_SPECS[insert.place]
  return rows.filter(
    ({ field }) => (field !== 'size' || room !== null) && (field !== 'broken' || drive > 0 || noise !== null),
  )
}

/** Places and devices with their names. */
export const PLACE_NAMES = PLACES.map((place) => [place, PLACE_SPECS[place].name] as const)
/** Rooms with their names. */
export const ROOM_NAMES = ROOMS.map((room) => [room, ROOM_SPECS[room].name] as const)
