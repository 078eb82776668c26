import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { followPointer } from './followPointer.js'

class Pointed extends Event {
  constructor(
    type: string,
    readonly clientX: number,
    readonly clientY: number,
    readonly pointerId = 1,
  ) {
    super(type)
  }
}
class Key extends Event {
  constructor(readonly key: string) {
    super('keydown')
  }
}

const before = globalThis.window
const page = new EventTarget()
beforeEach(() => void Object.assign(globalThis, { window: page }))
afterEach(() => void Object.assign(globalThis, { window: before }))

/** What happened, in order. */
function follow(threshold?: number): string[] {
  const happened: string[] = []
  const note = (what: string) => (event?: unknown) => {
    const at = event instanceof Pointed ? ` ${event.clientX},${event.clientY}` : ''
    happened.push(what + at)
  }
  followPointer(
    { clientX: 10, clientY: 10, pointerId: 1 },
    {
      ...(threshold === undefined ? {} : { threshold }),
      ...{
        onMove: note('move'),
        onDrop: note('drop'),
        onClick: note('click'),
        onCancel: () => note('cancel')(),
      },
    },
  )
  return happened
}
const send = (...events: Event[]): void => events.forEach((event) => page.dispatchEvent(event))

describe('following the pointer', () => {
  it('is a drag from three pixels on, and ends where it is let go', () => {
    const happened = follow()
    send(
      new Pointed('pointermove', 11, 11),
      new Pointed('pointermove', 13, 10),
      new Pointed('pointermove', 11, 10),
    )
    send(
      new Pointed('pointerup', 11, 10),
      new Pointed('pointermove', 50, 50),
      new Pointed('pointerup', 50, 50),
    )
    expect(happened).toEqual(['move 13,10', 'move 11,10', 'drop 11,10'])
  })

  it('is a click when it goes nowhere', () => {
    const happened = follow()
    send(new Pointed('pointermove', 11, 11), new Pointed('pointerup', 11, 11))
    expect(happened).toEqual(['click 11,11'])
  })

  it('may count from the first move', () => {
    const happened = follow(0)
    send(new Pointed('pointermove', 10, 10), new Pointed('pointerup', 10, 10))
    expect(happened).toEqual(['move 10,10', 'drop 10,10'])
  })

  it('leaves all as it was when the browser takes the pointer away, or Esc is pressed', () => {
    for (const end of [new Pointed('pointercancel', 40, 40), new Key('Escape')]) {
      const happened = follow()
      send(new Pointed('pointermove', 40, 40), new Key('a'), end, new Pointed('pointerup', 40, 40))
      expect(happened).toEqual(['move 40,40', 'cancel'])
    }
  })

  it('does not mind another pointer', () => {
    const happened = follow()
    send(
      new Pointed('pointermove', 90, 90, 2),
      new Pointed('pointerup', 90, 90, 2),
      new Pointed('pointerup', 10, 10),
    )
    expect(happened).toEqual(['click 10,10'])
  })
})
