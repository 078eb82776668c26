import { describe, expect, it } from 'vitest'
import type { Start } from './messages.js'
import { StartGate } from './StartGate.js'

const start = (token: number): Start => ({ token, from: 48_000, speed: 1, loop: null })

describe('a start', () => {
  it('begins when page and feeder are ready, whichever is heard first', () => {
    const gate = new StartGate()
    expect(gate.arm(start(1))).toBeNull()
    expect(gate.go(1)).toEqual(start(1))
    expect(gate.go(2)).toBeNull()
    expect(gate.arm(start(2))).toEqual(start(2))
  })

  it('begins once, with the loop that was set meanwhile', () => {
    const gate = new StartGate()
    gate.arm(start(1))
    gate.change({ loop: { from: 0, to: 10 } })
    expect(gate.go(1)).toEqual({ ...start(1), loop: { from: 0, to: 10 } })
    expect(gate.go(1)).toBeNull()
  })

  it('is nothing after a stop, and the feeder’s word for one before does not begin the next', () => {
    const gate = new StartGate()
    gate.arm(start(1))
    gate.stop()
    expect(gate.go(1)).toBeNull()
    expect(gate.arm(start(2))).toBeNull()
    expect(gate.go(1)).toBeNull()
    expect(gate.go(2)).toEqual(start(2))
  })
})
