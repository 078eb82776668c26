import { addAt, between, panned, seeded, silence, type Random, type Voice } from './dsp.js'
import * as v from './voices/index.js'

/** A recording of the demo's shelves: how it is named and filed, and how it is made. */
export interface DemoRecording {
  readonly shelf: string
  /** Path within the shelf, without ending. */
  readonly file: string
  readonly format: 'wav16' | 'wav24' | 'flac' | 'ogg' | 'mp3'
  readonly rate: 44_100 | 48_000 | 96_000
  readonly name: string
  readonly description: string
  readonly keywords: string
  readonly category: string
  readonly licence: string
  /** Highest sample in dBFS. */
  readonly peak: number
  /** Makes one (mono) or two channels. */
  readonly make: (rate: number) => Float32Array[]
}

const BOXES = 'Boxes & Levers'
const BOOTS = 'Boots & Cloth'
const WEATHER = 'Weather & Wires'

const FORMATS = ['wav24', 'wav16', 'flac', 'wav24', 'ogg', 'wav16', 'wav24', 'mp3'] as const
const RATES = [48_000, 48_000, 44_100, 96_000, 48_000, 48_000, 44_100, 48_000] as const

type Making = (rate: number, random: Random) => Float32Array[]

/** A single recording, with the moment of quiet that recordings begin with. */
const mono =
  (voice: Voice): Making =>
  (rate, random) => {
    const lead = between(random, 0.04, 0.25)
    const sound = voice(rate, random)
    const out = silence(lead + sound.length / rate, rate)
    addAt(out, sound, lead, rate)
    return [out]
  }

/** Two unlike makings of the same ambience, left and right. */
const wide =
  (voice: Voice): Making =>
  (rate, random) => [voice(rate, random), voice(rate, random)]

/** Passes from one side to the other while it sounds. */
const passing =
  (voice: Voice, from: number, to: number): Making =>
  (rate, random) => {
    const sound = voice(rate, random)
    const time = sound.length / rate
    return panned(sound, rate, (t) => from + ((to - from) * t) / time)
  }

/** A row of single events with pauses, as they are recorded. */
const row =
  (voice: Voice, count: number, gap: readonly [number, number]): Making =>
  (rate, random) => {
    const times: number[] = []
    for (let i = 0, at = 0.3; i < count; i++, at += between(random, ...gap)) times.push(at)
    const out = silence((times.at(-1) ?? 0) + gap[1] + 0.4, rate)
    for (const time of times) addAt(out, voice(rate, random), time, rate, between(random, 0.7, 1))
    return [out]
  }

let made = 0
function entry(shelf: string, code: string, name: string, description: string, keywords: string, category: string, making: Making, peak = -6): DemoRecording {
  const index = made++
  // Deep bodies and beds want their full depth; the rest takes turns through the formats a disk really holds.
  const format = FORMATS[index % FORMATS.length] ?? 'wav24'
  const file = `${code}_${name.replace(/[^A-Za-z0-9]+/g, '')}_${String(index + 1).padStart(3, '0')}`
  // Beds gain nothing from a high rate but size.
  const bed = category === 'Weather' || category === 'Rooms' || category === 'Tones'
  const rate = bed || format === 'ogg' || format === 'mp3' ? 48_000 : (RATES[index % RATES.length] ?? 48_000)
  const licence = index % 3 === 0 ? 'CC0 1.0' : 'Quillfeather house library'
  return { shelf, file, format, rate, name, description, keywords, category, licence, peak, make: (sampleRate) => making(sampleRate, seeded(7919 * (index + 1))) }
}

const sets = <T>(count: number, make: (index: number) => T): T[] => Array.from({ length: count }, (_, index) => make(index + 1))

/** All recordings of the demo's shelves. */
export function catalogue(): DemoRecording[] {
  made = 0
  return [...boxes(), ...boots(), ...weather()]
}

function boxes(): DemoRecording[] {
  const b = (code: string, name: string, description: string, keywords: string, making: Making, peak?: number): DemoRecording =>
    entry(BOXES, code, name, description, keywords, 'Mechanisms', making, peak)
  return [
    ...sets(4, (n) =>
      b(
        'LEVR',
        `Ground frame lever, set ${n}`,
        'Iron lever pulled over in a ground frame, catch, slide, heavy clank home',
        'lever, iron, heavy, throw, clank, railway',
        mono(v.lever(1.1 - n * 0.12, 0.8 + n * 0.15)),
      ),
    ),
    ...sets(3, (n) => b('LEVR', `Lever rack, single clunk ${n}`, 'Lever hits its wooden stop, no ring', 'lever, wood, stop, clunk, dull', mono(v.wood(0.5 + n * 0.12)))),
    b('LEVR', 'Lever throws, row of nine', 'Nine throws of one lever with pauses, from careful to hard', 'lever, iron, row, throws, many', row(v.lever(0.95, 0.9), 9, [1.7, 2.3])),
    ...sets(2, (n) => b('SPRG', `Spring ring long ${n}`, 'Catch spring rings out after the blow', 'spring, ring, metal, tail, resonance', mono(v.spring), -10)),
    ...sets(3, (n) =>
      b('BELL', `Block bell, single stroke ${n}`, 'One stroke on a block instrument bell', 'bell, block, signal, stroke, brass', mono(v.bell(980 + n * 70, 0.7)), -8),
    ),
    b(
      'BELL',
      'Block bell, two pause one',
      'Bell code of two strokes, a pause and one',
      'bell, block, code, signal, brass',
      (rate, random) => {
        const out = silence(3.6, rate)
        for (const at of [0.02, 0.5, 1.5]) addAt(out, v.bell(1050, 0.7)(rate, random), at, rate)
        return [out]
      },
      -8,
    ),
    b('BELL', 'Block bell, row of strokes', 'Sixteen single strokes, soft to firm', 'bell, block, strokes, row, many', row(v.bell(1050, 0.6), 16, [1.5, 2]), -8),
    ...sets(3, (n) =>
      b('DOOR', `Signal box door ${n}`, 'Plank door with an iron latch, creaks and shuts', 'door, wood, latch, creak, close, hinge', mono(v.door(0.9 + n * 0.15, 0.5 + n * 0.25))),
    ),
    ...sets(2, (n) => b('DOOR', `Hinge creak ${n}`, 'Dry hinge, slow', 'hinge, creak, squeak, door, dry', mono(v.creak(120 + n * 60, 1.1)), -12)),
    ...sets(2, (n) => b('BOLT', `Gate bolt, cast iron ${n}`, 'Cast iron bolt shot home, dry and close', 'bolt, gate, iron, latch, dry', mono(v.iron(1.2 + n * 0.3, 0.35)))),
    b('WNCH', 'Winch pawl, row', 'Pawl of a winch dropping from tooth to tooth, twenty times', 'winch, pawl, ratchet, iron, row', row(v.iron(1.7, 0.3), 20, [0.4, 0.7])),
    ...sets(2, (n) => b('COAL', `Coal hatch, slam ${n}`, 'Sheet iron hatch, boxy and low', 'hatch, coal, slam, iron, boxy, low', mono(v.iron(0.42 + n * 0.06, 0.8)))),
    b('KETL', 'Kettle to the boil', 'Stove kettle, steam grows and the whistle comes in', 'kettle, steam, whistle, boil, water, kitchen', mono(v.kettle(9, 5)), -14),
    b('KETL', 'Kettle simmer', 'Stove kettle, steam only', 'kettle, steam, hiss, simmer, kitchen', mono(v.kettle(12, 99)), -18),
    ...sets(2, (n) => b('KETL', `Kettle lid rattle ${n}`, 'Lid dances on the steam', 'kettle, lid, rattle, metal, kitchen', mono(v.rattle(1 + n * 0.7)), -12)),
    b('POUR', 'Tea into an enamel cup', 'Poured from a kettle, the cup fills', 'pour, water, tea, cup, liquid, kitchen', mono(v.pour(2.4)), -16),
    ...sets(2, (n) => b('PENS', `Nib on register paper ${n}`, 'Steel nib, a few words', 'pen, nib, write, scratch, paper', mono(v.scratch(1.8 + n)), -20)),
    ...sets(2, (n) => b('PENS', `Pen dropped on wood ${n}`, 'Falls, bounces and lies still', 'pen, drop, bounce, wood, fall, desk', mono(v.bounce(2.6 + n * 0.5)), -14)),
    b('BOOK', 'Register closed', 'Heavy bound register shut', 'book, register, close, paper, thud', mono(v.wood(0.8)), -12),
    ...sets(2, (n) =>
      b('PHON', `Wall telephone, one ring ${n}`, 'Two brass bells, hammered, ring out', 'telephone, phone, ring, bell, wall', mono(v.telephone(0.9 + n * 0.3)), -9),
    ),
    b('PHON', 'Wall telephone, six rings', 'Six rings with pauses', 'telephone, phone, rings, bell, wall, many', row(v.telephone(1), 6, [3, 3.2]), -9),
    b('CLOK', 'Station clock, slow', 'Pendulum clock, close, a minute', 'clock, tick, tock, pendulum, time', mono(v.clock(60, 2)), -20),
    b('LAMP', 'Oil lamp dies', 'Flame flutters, pops and is gone', 'lamp, flame, oil, die, pop, out', mono(v.lampDies), -16),
    ...sets(3, (n) =>
      b('TELG', `Telegraph sounder ${n}`, 'Morse sounder, short run', 'telegraph, morse, click, sounder', row(v.tick(1700 + n * 200, 0.02), 14, [0.09, 0.28]), -12),
    ),
    b('SGNL', 'Semaphore arm drops', 'Wire slackens, arm falls to danger', 'signal, semaphore, arm, drop, clank', mono(v.lever(0.7, 1.2))),
  ]
}

function boots(): DemoRecording[] {
  const b = (code: string, name: string, description: string, keywords: string, making: Making, peak?: number): DemoRecording =>
    entry(BOOTS, code, name, description, keywords, 'Footsteps and cloth', making, peak)
  return [
    ...sets(6, (n) => b('STEP', `Boot on boards ${n}`, 'One step, heavy boot on floor boards', 'boot, step, footstep, wood, boards, floor', mono(v.boardStep(0.9 + n * 0.05)), -9)),
    ...sets(6, (n) => b('STEP', `Boot on gravel ${n}`, 'One step, boot on track ballast', 'boot, step, footstep, gravel, ballast, stones', mono(v.gravelStep(0.8 + n * 0.08)), -9)),
    ...sets(4, (n) => b('STEP', `Boot on paving ${n}`, 'One step on a wet platform', 'boot, step, footstep, stone, platform, paving', mono(v.stoneStep), -10)),
    b(
      'STEP',
      'Walk on boards, forty steps',
      'Slow walk in heavy boots on boards, every step apart',
      'walk, boots, steps, footsteps, boards, wood, row',
      row(v.boardStep(1), 40, [0.75, 1.05]),
      -9,
    ),
    b('STEP', 'Walk on gravel, forty steps', 'Steady walk on ballast, every step apart', 'walk, boots, steps, footsteps, gravel, row', row(v.gravelStep(1), 40, [0.7, 1]), -9),
    b('STEP', 'Walk on paving, thirty steps', 'Walk along a platform', 'walk, boots, steps, footsteps, stone, platform, row', row(v.stoneStep, 30, [0.6, 0.9]), -10),
    ...sets(5, (n) => b('CLTH', `Coat sleeve reach ${n}`, 'Wool coat, an arm stretched out', 'cloth, coat, sleeve, wool, move, rustle', mono(v.cloth(0.7 + n * 0.1)), -18)),
    ...sets(3, (n) => b('CLTH', `Oilskin shrug ${n}`, 'Stiff oilskin, shoulders', 'cloth, oilskin, stiff, crackle, coat', mono(v.cloth(1.5 + n * 0.2)), -16)),
    b('CLTH', 'Coat moves, row', 'Twelve small movements in a wool coat', 'cloth, coat, wool, row, movements', row(v.cloth(0.9), 12, [1.1, 1.8]), -18),
    ...sets(2, (n) => b('CHAR', `Chair creak ${n}`, 'Sat down on, old joint', 'chair, creak, wood, sit', mono(v.creak(170 + n * 40, 0.5)), -14)),
  ]
}

function weather(): DemoRecording[] {
  const b = (code: string, name: string, description: string, keywords: string, category: string, making: Making, peak?: number): DemoRecording =>
    entry(WEATHER, code, name, description, keywords, category, making, peak)
  return [
    b('RAIN', 'Rain on slate, wide', 'Steady rain on a slate roof and yard, outside', 'rain, slate, roof, weather, steady, outside', 'Weather', wide(v.rain(50, 1)), -16),
    b('RAIN', 'Rain on slate, inside', 'The same rain heard from a small room', 'rain, roof, inside, interior, muffled, room', 'Weather', wide(v.rain(50, 0.15)), -20),
    b('RAIN', 'Rain on window', 'Drops on panes, close', 'rain, window, glass, drops, inside', 'Weather', wide(v.rain(45, 0.5, 110)), -18),
    b('RAIN', 'Gutter drip', 'Slow drops in a gutter', 'drip, water, gutter, drops', 'Weather', row(v.bounce(5), 20, [0.8, 2]), -20),
    b('WIND', 'Wind over the cutting', 'Low wind with slow gusts', 'wind, gust, night, low, weather', 'Weather', wide(v.wind(45, 240)), -18),
    b('WIND', 'Draught under a door', 'Thin whistling draught', 'wind, draught, whistle, door, thin', 'Weather', mono(v.wind(40, 760)), -22),
    ...sets(3, (n) =>
      b(
        'THND',
        `Thunder ${['near', 'middle', 'far'][n - 1] ?? ''}`,
        'A crack and a roll over hills',
        'thunder, storm, roll, rumble, weather',
        'Weather',
        wide(v.thunder(n)),
        -6 - 3 * n,
      ),
    ),
    b('WIRE', 'Telegraph wires hum', 'Wires sing in the wind', 'wires, hum, telegraph, drone, tone', 'Tones', wide(v.wires(30, 96)), -20),
    b(
      'TRAN',
      'Goods train passes left to right',
      'Slow goods train, wheels over joints, passes from left to right',
      'train, pass, by, wheels, engine, railway, steam',
      'Trains',
      passing(v.train(12), -0.85, 0.85),
      -4,
    ),
    b('TRAN', 'Goods train, distant', 'The same train a field away', 'train, distant, far, wheels, railway', 'Trains', wide(v.train(20)), -18),
    ...sets(2, (n) =>
      b(
        'WHIS',
        `Engine whistle ${n === 1 ? 'short' : 'long'}`,
        'Three-note engine whistle',
        'whistle, engine, train, steam, chime',
        'Trains',
        mono(v.whistle(n === 1 ? 0.8 : 2.2)),
        -8,
      ),
    ),
    b('ROOM', 'Room tone, signal box', 'Small wooden room at night, almost nothing', 'room tone, ambience, quiet, interior, night', 'Rooms', wide(v.wind(45, 110)), -34),
    b('ROOM', 'Room tone, waiting room', 'Larger, tiled, empty', 'room tone, ambience, quiet, interior, empty', 'Rooms', wide(v.wind(45, 180)), -36),
  ]
}
