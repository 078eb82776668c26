import * as v from '../voices/index.js'
import { entry, mono, row, sets, wide, type DemoRecording } from './entry.js'

/** Further recordings of the first three shelves. They stand last, so that the numbers of the others stay. */
export function more(): DemoRecording[] {
  return [
    ...sets(6, (n) =>
      entry(
        'Boxes & Levers',
        'LEVR',
        `Lever, quick pull ${n}`,
        'Small lever in one go',
        'lever, iron, quick, pull, light',
        'Mechanisms',
        mono(v.lever(1.5 + n * 0.15, 0.5)),
      ),
    ),
    ...sets(6, (n) =>
      entry(
        'Boxes & Levers',
        'BLKB',
        `Tapper key ${n}`,
        'Brass key of the block instrument',
        'key, tapper, brass, click, block',
        'Mechanisms',
        mono(v.tick(1500 + n * 260, 0.03)),
        -14,
      ),
    ),
    ...sets(4, (n) =>
      entry(
        'Boxes & Levers',
        'WOOD',
        `Desk lid ${n}`,
        'Sloping desk, lid let down',
        'desk, lid, wood, shut, thud',
        'Mechanisms',
        mono(v.wood(0.7 + n * 0.1)),
        -10,
      ),
    ),
    ...sets(3, (n) =>
      entry(
        'Boxes & Levers',
        'SPRG',
        `Spring, short ${n}`,
        'Small spring plucked',
        'spring, pluck, metal, short',
        'Mechanisms',
        mono(v.spring),
        -14,
      ),
    ),
    entry(
      'Boxes & Levers',
      'WOOD',
      'Desk lid, row',
      'Let down twelve times',
      'desk, lid, wood, shut, row',
      'Mechanisms',
      row(v.wood(0.8), 12, [0.8, 1.3]),
      -10,
    ),
    ...sets(4, (n) =>
      entry(
        'Boots & Cloth',
        'STEP',
        `Boot scuff on boards ${n}`,
        'Sole drawn over the floor',
        'boot, scuff, slide, boards, floor',
        'Footsteps and cloth',
        mono(v.scratch(0.4 + n * 0.1)),
        -18,
      ),
    ),
    ...sets(4, (n) =>
      entry(
        'Boots & Cloth',
        'STEP',
        `Light step on boards ${n}`,
        'A lighter walker, indoors',
        'shoe, step, footstep, light, boards',
        'Footsteps and cloth',
        mono(v.boardStep(0.55 + n * 0.05)),
        -14,
      ),
    ),
    ...sets(3, (n) =>
      entry(
        'Boots & Cloth',
        'CLTH',
        `Scarf ${n}`,
        'Wool wound round once',
        'scarf, cloth, wool, wind, rustle',
        'Footsteps and cloth',
        mono(v.cloth(1 + n * 0.2)),
        -20,
      ),
    ),
    entry(
      'Boots & Cloth',
      'STEP',
      'Light walk on boards, row',
      'Thirty light steps, apart',
      'walk, light, steps, footsteps, boards, row',
      'Footsteps and cloth',
      row(v.boardStep(0.6), 30, [0.6, 0.85]),
      -14,
    ),
    ...sets(5, (n) =>
      entry(
        'Weather & Wires',
        'THND',
        `Thunder roll ${n}`,
        'Rolls without a crack',
        'thunder, roll, storm, far',
        'Weather',
        mono(v.thunder(3 + n)),
        -12,
      ),
    ),
    ...sets(4, (n) =>
      entry(
        'Weather & Wires',
        'WIRE',
        `Single wire ${n}`,
        'One wire sings',
        'wire, hum, sing, tone, telegraph',
        'Tones',
        wide(v.wires(8, 120 + n * 40)),
        -22,
      ),
    ),
  ]
}
