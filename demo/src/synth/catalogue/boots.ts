import * as v from '../voices/index.js'
import { entry, mono, row, sets, type DemoRecording, type Making } from './entry.js'

const BOOTS = 'Boots & Cloth'

/** Steps and clothes. */
export function boots(): DemoRecording[] {
  const b = (
    code: string,
    name: string,
    description: string,
    keywords: string,
    making: Making,
    peak?: number,
  ): DemoRecording => entry(BOOTS, code, name, description, keywords, 'Footsteps and cloth', making, peak)
  return [
    ...sets(6, (n) =>
      b(
        'STEP',
        `Boot on boards ${n}`,
        'One step, heavy boot on floor boards',
        'boot, step, footstep, wood, boards, floor',
        mono(v.boardStep(0.9 + n * 0.05)),
        -9,
      ),
    ),
    ...sets(6, (n) =>
      b(
        'STEP',
        `Boot on gravel ${n}`,
        'One step, boot on track ballast',
        'boot, step, footstep, gravel, ballast, stones',
        mono(v.gravelStep(0.8 + n * 0.08)),
        -9,
      ),
    ),
    ...sets(4, (n) =>
      b(
        'STEP',
        `Boot on paving ${n}`,
        'One step on a wet platform',
        'boot, step, footstep, stone, platform, paving',
        mono(v.stoneStep),
        -10,
      ),
    ),
    b(
      'STEP',
      'Walk on boards, forty steps',
      'Slow walk in heavy boots on boards, every step apart',
      'walk, boots, steps, footsteps, boards, wood, row',
      row(v.boardStep(1), 40, [0.75, 1.05]),
      -9,
    ),
    b(
      'STEP',
      'Walk on gravel, forty steps',
      'Steady walk on ballast, every step apart',
      'walk, boots, steps, footsteps, gravel, row',
      row(v.gravelStep(1), 40, [0.7, 1]),
      -9,
    ),
    b(
      'STEP',
      'Walk on paving, thirty steps',
      'Walk along a platform',
      'walk, boots, steps, footsteps, stone, platform, row',
      row(v.stoneStep, 30, [0.6, 0.9]),
      -10,
    ),
    ...sets(5, (n) =>
      b(
        'CLTH',
        `Coat sleeve reach ${n}`,
        'Wool coat, an arm stretched out',
        'cloth, coat, sleeve, wool, move, rustle',
        mono(v.cloth(0.7 + n * 0.1)),
        -18,
      ),
    ),
    ...sets(3, (n) =>
      b(
        'CLTH',
        `Oilskin shrug ${n}`,
        'Stiff oilskin, shoulders',
        'cloth, oilskin, stiff, crackle, coat',
        mono(v.cloth(1.5 + n * 0.2)),
        -16,
      ),
    ),
    b(
      'CLTH',
      'Coat moves, row',
      'Twelve small movements in a wool coat',
      'cloth, coat, wool, row, movements',
      row(v.cloth(0.9), 12, [1.1, 1.8]),
      -18,
    ),
    ...sets(2, (n) =>
      b(
        'CHAR',
        `Chair creak ${n}`,
        'Sat down on, old joint',
        'chair, creak, wood, sit',
        mono(v.creak(170 + n * 40, 0.5)),
        -14,
      ),
    ),
  ]
}
