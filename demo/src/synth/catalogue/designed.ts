import * as v from '../voices/index.js'
import { entry, mono, sets, wide, type DemoRecording, type Making } from './entry.js'

const DESIGNED = 'Designed'

/** Sounds that nothing makes. */
export function designed(): DemoRecording[] {
  const d = (
    code: string,
    name: string,
    description: string,
    keywords: string,
    making: Making,
    peak?: number,
  ): DemoRecording => entry(DESIGNED, code, name, description, keywords, 'Designed', making, peak)
  return [
    ...sets(11, (n) =>
      d(
        'WHSH',
        `Whoosh, quick ${n}`,
        'Air rushes by, close',
        'whoosh, air, fast, pass, swish',
        mono(v.whoosh(0.35 + n * 0.06, 300 + n * 60, 2400 + n * 300)),
        -8,
      ),
    ),
    ...sets(5, (n) =>
      d(
        'WHSH',
        `Whoosh, slow ${n}`,
        'A long breath of air',
        'whoosh, air, slow, breath, transition',
        mono(v.whoosh(1.2 + n * 0.35, 120, 900 + n * 250, 0.7)),
        -10,
      ),
    ),
    ...sets(10, (n) =>
      d(
        'IMPT',
        `Impact, deep ${n}`,
        'Heavy hit with a tail',
        'impact, hit, boom, deep, heavy, thud',
        mono(v.impact(34 + n * 5, 0.8 + n * 0.15)),
        -4,
      ),
    ),
    ...sets(4, (n) =>
      d(
        'IMPT',
        `Impact, dry ${n}`,
        'Hit without much tail',
        'impact, hit, punch, dry, short',
        mono(v.impact(60 + n * 14, 0.25)),
        -5,
      ),
    ),
    ...sets(8, (n) =>
      d(
        'RISR',
        `Riser ${n}`,
        'Climbs to a cut',
        'riser, rise, tension, climb, build',
        mono(v.riser(1.5 + n * 0.4, 90 + n * 20, 700 + n * 180)),
        -9,
      ),
    ),
    ...sets(5, (n) =>
      d(
        'DRON',
        `Drone, night ${n}`,
        'Low chord that turns slowly',
        'drone, tone, low, dark, night, bed',
        wide(v.drone(8, 42 + n * 7, [1, 1.5, 2, 3.02])),
        -16,
      ),
    ),
    ...sets(3, (n) =>
      d(
        'DRON',
        `Drone, cold ${n}`,
        'Thin, high, still',
        'drone, tone, cold, thin, high, bed',
        wide(v.drone(8, 210 + n * 35, [1, 2.01, 2.99, 4.5])),
        -20,
      ),
    ),
    ...sets(7, (n) =>
      d(
        'SHIM',
        `Lamp shimmer ${n}`,
        'Glassy strike that blooms',
        'shimmer, glass, lamp, light, magic, bell',
        mono(v.shimmer(620 + n * 130)),
        -12,
      ),
    ),
  ]
}
