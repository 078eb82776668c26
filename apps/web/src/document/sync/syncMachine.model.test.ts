import { describe, expect, it } from 'vitest'
import { ModelWorld } from './test/ModelWorld.js'
import { wrongAtRest, wrongNow } from './test/verdict.js'

/** The same seeds each time, 1 and up: a run that has found a fault is played for ever after. */
const RUNS = 20_000
const HAPPENINGS = 60

/** Plays a world through; says what goes wrong in it, or null. */
function play(seed: number): string | null {
  const world = new ModelWorld(seed)
  for (let turn = 0; turn < HAPPENINGS; turn++) {
    const wrong = wrongNow(world.happen())
    if (wrong) return `after ${turn}: ${wrong}`
  }
  return world.calm() ? wrongAtRest(world) : 'it never comes to rest'
}

describe('the sync machine, against a plain model of the log', () => {
  it(`loses nothing and drifts nowhere in ${RUNS} random runs`, { timeout: 300_000 }, () => {
    for (let seed = 1; seed <= RUNS; seed++) {
      const wrong = play(seed)
      if (wrong) expect.fail(`seed ${seed}: ${wrong}`)
    }
  })
})
