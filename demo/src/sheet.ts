import type { Category, Cue } from '@yodel/core'

/** A line of the demo's spotting sheet; frames count from the programme's first frame. */
export interface Line {
  readonly category: Category
  readonly from: number
  readonly to: number
  readonly words: string
  readonly fields?: Partial<Cue>
  /** Sounds laid for it: name, frame of the sync point, track, level in dB, and the part of the recording in seconds. */
  readonly sounds?: readonly {
    name: string
    at: number
    track: string
    gain?: number
    part?: readonly [number, number]
    fadeIn?: number
    fadeOut?: number
    sync?: number
  }[]
}

/** Steps at even distances, each another of as many recordings as there are. */
export const steps = (
  name: string,
  from: number,
  every: number,
  count: number,
  gain: number,
  recordings = 6,
): NonNullable<Line['sounds']> =>
  Array.from({ length: count }, (_, i) => ({
    name: `${name} ${1 + (i % recordings)}`,
    at: from + i * every,
    track: 'Steps',
    gain: gain - (i % 3),
  }))

/** Mara's sheet of reel 1. */
export const SHEET: readonly Line[] = [
  {
    category: 'BG',
    from: 0,
    to: 288,
    words: 'Rain on the yard, steady, slate roof near',
    fields: { state: 'ready', where: 'Yard, outside' },
    sounds: [
      {
        name: 'Rain on slate, wide',
        at: 0,
        track: 'Rain A',
        gain: -6,
        part: [2, 14.2],
        fadeIn: 24000,
        fadeOut: 12000,
        sync: 2,
      },
    ],
  },
  {
    category: 'BG',
    from: 0,
    to: 288,
    words: 'Wind in the cutting behind it',
    fields: { where: 'Yard, outside' },
  },
  {
    category: 'FOL',
    from: 48,
    to: 220,
    words: 'Signalman walks up the yard, gravel',
    fields: {
      source: 'Signalman',
      onScreen: 'on',
      where: 'Yard',
      notes: 'Tired. Not marching.',
      state: 'work',
    },
    sounds: steps('Boot on gravel', 50, 13, 6, -8),
  },
  {
    category: 'FX',
    from: 246,
    to: 290,
    words: 'Signal box door pulled shut',
    fields: { source: 'Plank door', onScreen: 'on', state: 'ready' },
    sounds: [{ name: 'Signal box door 1', at: 252, track: 'Doors & props', gain: -3 }],
  },
  {
    category: 'BG',
    from: 288,
    to: 816,
    words: 'Rain goes indoors',
    fields: { where: 'Signal box', state: 'ready' },
    sounds: [
      {
        name: 'Rain on slate, inside',
        at: 288,
        track: 'Rain B',
        gain: -4,
        part: [4, 26],
        fadeIn: 12000,
        fadeOut: 24000,
        sync: 4,
      },
    ],
  },
  {
    category: 'BG',
    from: 288,
    to: 816,
    words: 'Signal box, almost nothing',
    fields: { where: 'Signal box' },
    sounds: [
      {
        name: 'Room tone, signal box',
        at: 288,
        track: 'Rooms',
        gain: 0,
        part: [1, 23],
        fadeIn: 9600,
        fadeOut: 9600,
        sync: 1,
      },
    ],
  },
  {
    category: 'FOL',
    from: 298,
    to: 400,
    words: 'He crosses to the frame, boards',
    fields: { source: 'Signalman', onScreen: 'on', where: 'Signal box', state: 'ready' },
    sounds: steps('Boot on boards', 300, 12, 9, -6),
  },
  {
    category: 'FX',
    from: 406,
    to: 450,
    words: 'Block bell, two beats',
    fields: { source: 'Block instrument', onScreen: 'on', state: 'approved' },
    sounds: [
      { name: 'Block bell, single stroke 1', at: 408, track: 'Levers & bells', gain: -8, part: [0, 0.95] },
      { name: 'Block bell, single stroke 2', at: 425, track: 'Doors & props', gain: -9 },
    ],
  },
  {
    category: 'FOL',
    from: 452,
    to: 472,
    words: 'Sleeve and reach to lever four',
    fields: { source: 'Signalman' },
    sounds: [{ name: 'Coat sleeve reach 2', at: 454, track: 'Cloth & hands', gain: -4 }],
  },
  {
    category: 'FX',
    from: 460,
    to: 500,
    words: 'Lever four thrown',
    fields: { source: 'Lever frame', onScreen: 'on', state: 'ready' },
    sounds: [{ name: 'Ground frame lever, set 1', at: 470, track: 'Levers & bells', gain: -4 }],
  },
  {
    category: 'FOL',
    from: 512,
    to: 532,
    words: 'Sleeve again',
    fields: { source: 'Signalman', priority: 1 },
  },
  {
    category: 'FX',
    from: 520,
    to: 560,
    words: 'Lever seven thrown, heavier',
    fields: { source: 'Lever frame', onScreen: 'on', state: 'work' },
    sounds: [{ name: 'Ground frame lever, set 2', at: 530, track: 'Levers & bells', gain: -2 }],
  },
  {
    category: 'FX',
    from: 614,
    to: 660,
    words: 'Lever nine thrown, frame clanks home',
    fields: {
      source: 'Lever frame',
      onScreen: 'on',
      where: 'Signal box, left',
      notes: 'Heavy, old iron. Let the spring ring out under the bell.',
    },
  },
  { category: 'FX', from: 624, to: 690, words: 'Spring rings out', fields: { source: 'Lever nine' } },
  {
    category: 'FX',
    from: 716,
    to: 810,
    words: 'Block bell, three beats',
    fields: { source: 'Block instrument', onScreen: 'on', state: 'ready' },
    sounds: [
      { name: 'Block bell, single stroke 3', at: 720, track: 'Levers & bells', gain: -8, part: [0, 0.95] },
      { name: 'Block bell, single stroke 3', at: 744, track: 'Doors & props', gain: -8, part: [0, 0.95] },
    ],
  },
  {
    category: 'DX',
    from: 660,
    to: 700,
    words: '"Nine. She always sticks."',
    fields: { source: 'Signalman', onScreen: 'off' },
  },
  {
    category: 'FX',
    from: 816,
    to: 1020,
    words: 'Kettle on the simmer, rising',
    fields: { source: 'Kettle', onScreen: 'on', where: 'Stove' },
  },
  {
    category: 'FX',
    from: 898,
    to: 960,
    words: 'Lid dances',
    fields: { source: 'Kettle', onScreen: 'on', state: 'work' },
    sounds: [{ name: 'Kettle lid rattle 1', at: 900, track: 'Doors & props', gain: -6 }],
  },
  { category: 'FOL', from: 1010, to: 1028, words: 'Kettle lifted, handle', fields: { source: 'Signalman' } },
  {
    category: 'FX',
    from: 1030,
    to: 1084,
    words: 'Tea poured',
    fields: { source: 'Kettle', onScreen: 'on' },
    sounds: [{ name: 'Tea into an enamel cup', at: 1030, track: 'Doors & props', gain: -2 }],
  },
  { category: 'BG', from: 816, to: 1344, words: 'Rain on the pane, close', fields: { where: 'Signal box' } },
  {
    category: 'FOL',
    from: 1120,
    to: 1140,
    words: 'Sits down, chair answers',
    fields: { source: 'Chair', onScreen: 'off' },
    sounds: [{ name: 'Chair creak 1', at: 1128, track: 'Cloth & hands', gain: -6 }],
  },
  {
    category: 'FOL',
    from: 1148,
    to: 1240,
    words: 'Nib on the register, two lines',
    fields: { source: 'Pen', onScreen: 'on', notes: 'Close. The only sound in the room.' },
  },
  {
    category: 'FX',
    from: 1280,
    to: 1310,
    words: 'Pen dropped on the register',
    fields: { source: 'Pen', onScreen: 'on' },
  },
  {
    category: 'FOL',
    from: 1312,
    to: 1330,
    words: 'Register shut',
    fields: { source: 'Register', onScreen: 'on' },
  },
  {
    category: 'MX',
    from: 1100,
    to: 1344,
    words: 'Harmonium from somewhere, three chords',
    fields: { onScreen: 'off' },
  },
  {
    category: 'FX',
    from: 1366,
    to: 1390,
    words: 'Engine whistle, short, far to near',
    fields: { source: 'Engine', onScreen: 'off' },
  },
  {
    category: 'FX',
    from: 1390,
    to: 1650,
    words: 'Goods train passes, left to right',
    fields: { source: 'Train', onScreen: 'on', where: 'Line', state: 'work' },
    sounds: [{ name: 'Goods train passes left to right', at: 1530, track: 'Train', gain: -4, sync: 6 }],
  },
  {
    category: 'BG',
    from: 1344,
    to: 1680,
    words: 'Rain on the line, open',
    fields: { where: 'Line, outside' },
  },
  {
    category: 'DSG',
    from: 1500,
    to: 1660,
    words: 'The night closes behind the train',
    fields: { notes: 'A breath in, nothing literal.' },
  },
  {
    category: 'BG',
    from: 1680,
    to: 1920,
    words: 'Waiting room, empty, tiled',
    fields: { where: 'Waiting room', state: 'ready' },
    sounds: [
      {
        name: 'Room tone, waiting room',
        at: 1680,
        track: 'Rooms',
        gain: 2,
        part: [2, 12],
        fadeIn: 9600,
        fadeOut: 9600,
        sync: 2,
      },
    ],
  },
  {
    category: 'FX',
    from: 1690,
    to: 1890,
    words: 'Station clock',
    fields: { source: 'Clock', onScreen: 'on' },
  },
  {
    category: 'FX',
    from: 1750,
    to: 1800,
    words: 'Wall telephone rings',
    fields: { source: 'Telephone', onScreen: 'on', state: 'open' },
  },
  {
    category: 'FX',
    from: 1822,
    to: 1880,
    words: 'Rings again, nobody',
    fields: { source: 'Telephone', onScreen: 'on' },
  },
  {
    category: 'FX',
    from: 1874,
    to: 1918,
    words: 'Waiting room door falls to',
    fields: { source: 'Door', onScreen: 'on' },
  },
  {
    category: 'FX',
    from: 2016,
    to: 2060,
    words: 'Lamp gutters and dies',
    fields: { source: 'Lamp', onScreen: 'on', priority: 2, notes: 'The whole reel leads here.' },
  },
  {
    category: 'FOL',
    from: 2062,
    to: 2150,
    words: 'He walks off, slower than he came',
    fields: { source: 'Signalman', onScreen: 'on' },
  },
  {
    category: 'FX',
    from: 2202,
    to: 2240,
    words: 'Signal arm drops to danger',
    fields: { source: 'Signal', onScreen: 'on' },
  },
  { category: 'FX', from: 2246, to: 2304, words: 'Thunder, far', fields: { onScreen: 'off' } },
  {
    category: 'FX',
    from: 2100,
    to: 2130,
    words: 'Owl',
    fields: { state: 'omitted', omitReason: 'Director: no birds at all in this film.' },
  },
]
