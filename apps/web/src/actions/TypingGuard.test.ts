import { beforeEach, describe, expect, it } from 'vitest'
import { TypingGuard } from './TypingGuard.js'

/** A field that can be taken out of the page. */
const field = (): Element => ({ isConnected: true }) as Element
const takeOut = (one: Element): void => void Object.assign(one, { isConnected: false })

let guard: TypingGuard
beforeEach(() => {
  guard = new TypingGuard()
})

describe('letters of a field that has gone away by itself', () => {
  it('run nothing, until the person shows that they have seen it', () => {
    const words = field()
    guard.entered(words)
    guard.typed('d')
    takeOut(words)
    expect([guard.swallows('o'), guard.swallows('r'), guard.swallows('1')]).toEqual([true, true, true])
    expect(guard.swallows('Escape')).toBe(true)
    expect(guard.swallows('o')).toBe(false)
  })

  it.each(['Enter', 'Escape', 'Tab'])('are none after %s: typing was ended by hand', (key) => {
    const words = field()
    guard.entered(words)
    guard.typed('d')
    guard.typed(key)
    takeOut(words)
    expect(guard.swallows('o')).toBe(false)
  })

  it('are none while the field is there, or was left by the pointer', () => {
    const words = field()
    guard.entered(words)
    guard.typed('d')
    expect(guard.swallows('o')).toBe(false)
    guard.left()
    takeOut(words)
    expect(guard.swallows('o')).toBe(false)
  })

  it('run again in the next field, and after a press of the pointer', () => {
    const words = field()
    guard.entered(words)
    guard.typed('d')
    takeOut(words)
    expect(guard.swallows('o')).toBe(true)
    guard.left()
    expect(guard.swallows('o')).toBe(false)
    const next = field()
    guard.entered(next)
    expect(guard.swallows('o')).toBe(false)
  })
})
