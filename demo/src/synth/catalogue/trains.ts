import * as v from '../voices/index.js'
import { entry, mono, passing, row, sets, wide, type DemoRecording, type Making } from './entry.js'

const TRAINS = 'Trains & Tracks'

/** Rolling stock, rails and steam. */
export function trains(): DemoRecording[] {
  const t = (
    code: string,
    name: string,
    description: string,
    keywords: string,
    making: Making,
    peak?: number,
  ): DemoRecording => entry(TRAINS, code, name, description, keywords, 'Trains', making, peak)
  return [
    ...sets(10, (n) =>
      t(
        'JOIN',
        `Rail joint, bogie ${n}`,
        'Two axles over one joint, close',
        'train, rail, joint, wheels, clack, track',
        mono(v.joint(0.7 + n * 0.09)),
      ),
    ),
    t(
      'JOIN',
      'Rail joints, row',
      'Twenty bogies over a joint, apart',
      'train, rail, joint, wheels, row, many',
      row(v.joint(1), 20, [1, 1.4]),
    ),
    ...sets(6, (n) =>
      t(
        'CUPL',
        `Couplings take up, ${n + 1} wagons`,
        'Slack runs through a goods train',
        'couplings, chain, wagon, slack, clank, goods',
        mono(v.couplings(n + 1)),
      ),
    ),
    ...sets(8, (n) =>
      t(
        'BRAK',
        `Brake squeal ${n}`,
        'Block on a tyre, slowing',
        'brake, squeal, stop, screech, metal',
        mono(v.brake(0.9 + n * 0.3, 1500 + n * 240)),
        -10,
      ),
    ),
    ...sets(8, (n) =>
      t(
        'STEM',
        `Steam let off ${n}`,
        'Valve opened and shut',
        'steam, hiss, valve, release, engine',
        mono(v.steam(0.6 + n * 0.35, 0.8 + n * 0.1)),
        -12,
      ),
    ),
    ...sets(8, (n) =>
      t(
        'CHUF',
        `Exhaust beat ${n}`,
        'One beat of a slow engine',
        'chuff, exhaust, beat, steam, engine, locomotive',
        mono(v.chuff(0.7 + n * 0.12)),
        -8,
      ),
    ),
    t(
      'CHUF',
      'Exhaust beats, starting',
      'Sixteen beats, apart, from a standing start',
      'chuff, exhaust, beats, steam, engine, start, row',
      row(v.chuff(1.1), 16, [0.8, 1.1]),
      -8,
    ),
    ...sets(5, (n) =>
      t(
        'PNTS',
        `Points go over ${n}`,
        'Blade slides and locks',
        'points, switch, track, blade, lock, clunk',
        mono(v.points),
      ),
    ),
    ...sets(3, (n) =>
      t(
        'SING',
        `Rail sings ${n}`,
        'The rail before the train is there',
        'rail, sing, ring, distant, approach',
        mono(v.singing(3 + n)),
        -20,
      ),
    ),
    ...sets(3, (n) =>
      t(
        'WHIS',
        `Shunter whistle ${n}`,
        'Small engine, one short pop',
        'whistle, shunter, engine, short, pop',
        mono(v.whistle(0.3 + n * 0.15)),
        -8,
      ),
    ),
    ...sets(2, (n) =>
      t(
        'TRAN',
        `Wagons pass, ${n === 1 ? 'right to left' : 'left to right'}`,
        'A few wagons roll by, no engine',
        'train, wagons, pass, by, roll',
        passing(v.train(7), n === 1 ? 0.85 : -0.85, n === 1 ? -0.85 : 0.85),
        -8,
      ),
    ),
    t(
      'YARD',
      'Goods yard at night',
      'Far couplings, a hiss now and then',
      'yard, night, goods, ambience, far',
      wide(v.wind(20, 320)),
      -30,
    ),
  ]
}
