import { addAt, silence } from '../dsp.js'
import * as v from '../voices/index.js'
import { entry, mono, row, sets, type DemoRecording, type Making } from './entry.js'

const BOXES = 'Boxes & Levers'

/** What stands in a signal box. */
export function boxes(): DemoRecording[] {
  const b = (
    code: string,
    name: string,
    description: string,
    keywords: string,
    making: Making,
    peak?: number,
  ): DemoRecording => entry(BOXES, code, name, description, keywords, 'Mechanisms', making, peak)
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
    ...sets(3, (n) =>
      b(
        'LEVR',
        `Lever rack, single clunk ${n}`,
        'Lever hits its wooden stop, no ring',
        'lever, wood, stop, clunk, dull',
        mono(v.wood(0.5 + n * 0.12)),
      ),
    ),
    b(
      'LEVR',
      'Lever throws, row of nine',
      'Nine throws of one lever with pauses, from careful to hard',
      'lever, iron, row, throws, many',
      row(v.lever(0.95, 0.9), 9, [1.7, 2.3]),
    ),
    ...sets(2, (n) =>
      b(
        'SPRG',
        `Spring ring long ${n}`,
        'Catch spring rings out after the blow',
        'spring, ring, metal, tail, resonance',
        mono(v.spring),
        -10,
      ),
    ),
    ...sets(3, (n) =>
      b(
        'BELL',
        `Block bell, single stroke ${n}`,
        'One stroke on a block instrument bell',
        'bell, block, signal, stroke, brass',
        mono(v.bell(980 + n * 70, 0.7)),
        -8,
      ),
    ),
    b(
      'BELL',
      'Block bell, two pause one',
      'Bell code of two strokes, a pause and one',
      'bell, block, code, signal, brass',
      (rate, random) => {
        const out = silence(3.6, rate)
        for (const at of [0.02, 0.5, 1.5]) addAt(out, v.bell(1050, 0.7)(rate, random), at, rate)
        return { channels: [out], onsets: [0.02, 0.5, 1.5] }
      },
      -8,
    ),
    b(
      'BELL',
      'Block bell, row of strokes',
      'Sixteen single strokes, soft to firm',
      'bell, block, strokes, row, many',
      row(v.bell(1050, 0.6), 16, [1.5, 2]),
      -8,
    ),
    ...sets(3, (n) =>
      b(
        'DOOR',
        `Signal box door ${n}`,
        'Plank door with an iron latch, creaks and shuts',
        'door, wood, latch, creak, close, hinge',
        mono(v.door(0.9 + n * 0.15, 0.5 + n * 0.25)),
      ),
    ),
    ...sets(2, (n) =>
      b(
        'DOOR',
        `Hinge creak ${n}`,
        'Dry hinge, slow',
        'hinge, creak, squeak, door, dry',
        mono(v.creak(120 + n * 60, 1.1)),
        -12,
      ),
    ),
    ...sets(2, (n) =>
      b(
        'BOLT',
        `Gate bolt, cast iron ${n}`,
        'Cast iron bolt shot home, dry and close',
        'bolt, gate, iron, latch, dry',
        mono(v.iron(1.2 + n * 0.3, 0.35)),
      ),
    ),
    b(
      'WNCH',
      'Winch pawl, row',
      'Pawl of a winch dropping from tooth to tooth, twenty times',
      'winch, pawl, ratchet, iron, row',
      row(v.iron(1.7, 0.3), 20, [0.4, 0.7]),
    ),
    ...sets(2, (n) =>
      b(
        'COAL',
        `Coal hatch, slam ${n}`,
        'Sheet iron hatch, boxy and low',
        'hatch, coal, slam, iron, boxy, low',
        mono(v.iron(0.42 + n * 0.06, 0.8)),
      ),
    ),
    b(
      'KETL',
      'Kettle to the boil',
      'Stove kettle, steam grows and the whistle comes in',
      'kettle, steam, whistle, boil, water, kitchen',
      mono(v.kettle(9, 5)),
      -14,
    ),
    b(
      'KETL',
      'Kettle simmer',
      'Stove kettle, steam only',
      'kettle, steam, hiss, simmer, kitchen',
      mono(v.kettle(12, 99)),
      -18,
    ),
    ...sets(2, (n) =>
      b(
        'KETL',
        `Kettle lid rattle ${n}`,
        'Lid dances on the steam',
        'kettle, lid, rattle, metal, kitchen',
        mono(v.rattle(1 + n * 0.7)),
        -12,
      ),
    ),
    b(
      'POUR',
      'Tea into an enamel cup',
      'Poured from a kettle, the cup fills',
      'pour, water, tea, cup, liquid, kitchen',
      mono(v.pour(2.4)),
      -16,
    ),
    ...sets(2, (n) =>
      b(
        'PENS',
        `Nib on register paper ${n}`,
        'Steel nib, a few words',
        'pen, nib, write, scratch, paper',
        mono(v.scratch(1.8 + n)),
        -20,
      ),
    ),
    ...sets(2, (n) =>
      b(
        'PENS',
        `Pen dropped on wood ${n}`,
        'Falls, bounces and lies still',
        'pen, drop, bounce, wood, fall, desk',
        mono(v.bounce(2.6 + n * 0.5)),
        -14,
      ),
    ),
    b(
      'BOOK',
      'Register closed',
      'Heavy bound register shut',
      'book, register, close, paper, thud',
      mono(v.wood(0.8)),
      -12,
    ),
    ...sets(2, (n) =>
      b(
        'PHON',
        `Wall telephone, one ring ${n}`,
        'Two brass bells, hammered, ring out',
        'telephone, phone, ring, bell, wall',
        mono(v.telephone(0.9 + n * 0.3)),
        -9,
      ),
    ),
    b(
      'PHON',
      'Wall telephone, six rings',
      'Six rings with pauses',
      'telephone, phone, rings, bell, wall, many',
      row(v.telephone(1), 6, [3, 3.2]),
      -9,
    ),
    b(
      'CLOK',
      'Station clock, slow',
      'Pendulum clock, close, a minute',
      'clock, tick, tock, pendulum, time',
      mono(v.clock(60, 2)),
      -20,
    ),
    b(
      'LAMP',
      'Oil lamp dies',
      'Flame flutters, pops and is gone',
      'lamp, flame, oil, die, pop, out',
      mono(v.lampDies),
      -16,
    ),
    ...sets(3, (n) =>
      b(
        'TELG',
        `Telegraph sounder ${n}`,
        'Morse sounder, short run',
        'telegraph, morse, click, sounder',
        row(v.tick(1700 + n * 200, 0.02), 14, [0.09, 0.28]),
        -12,
      ),
    ),
    b(
      'SGNL',
      'Semaphore arm drops',
      'Wire slackens, arm falls to danger',
      'signal, semaphore, arm, drop, clank',
      mono(v.lever(0.7, 1.2)),
    ),
  ]
}
