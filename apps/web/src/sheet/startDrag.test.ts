import { moveClips, ok, refuse, type Change, type ReelDocument, type Result } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { setStage, type Stage } from '../test/stage.js'
import { startDrag, type Dragging, type DragPlan } from './startDrag.js'

class Pointed extends Event {
  readonly pointerId = 1
  constructor(
    type: string,
    readonly clientX: number,
    readonly clientY: number,
  ) {
    super(type)
  }
}

const before = globalThis.window
const page = new EventTarget()
let stage: Stage
let shown: (Dragging | null)[]
let refused: (string | null)[]
beforeEach(() => {
  Object.assign(globalThis, { window: page })
  stage = setStage(placed(placed(testReel(), 'a', 100), 'b', 140, { trackId: 't-a' }))
  shown = []
  refused = []
})
afterEach(() => void Object.assign(globalThis, { window: before }))

const down = (button = 0) => ({
  ...{ button, clientX: 0, clientY: 0, pointerId: 1 },
  ...{ preventDefault: () => undefined, stopPropagation: () => undefined },
})
const send = (type: string, x: number, y: number): void => void page.dispatchEvent(new Pointed(type, x, y))
/** Ten samples of a pixel down the Sheet. */
function drag(plan: Partial<DragPlan> = {}, button = 0): void {
  const compute = (doc: ReelDocument, { by }: { by: number }): Result<Change> =>
    moveClips(doc, { ids: ['a'], by: Math.round(by) })
  startDrag(
    down(button) as never,
    { id: 'a', compute, ...plan },
    {
      ...{ dispatch: stage.store.dispatch, store: stage.store, transport: stage.transport, perPixel: 10 },
      show: (dragging, refusal) => {
        shown.push(dragging)
        refused.push(refusal)
      },
    },
  )
}
const startOf = (doc = stage.doc()): number | undefined => doc.clip.get('a')?.start

describe('dragging on the Sheet', () => {
  it('shows each move computed anew from the document at its beginning, and writes one change at the end', () => {
    drag()
    send('pointermove', 0, 50)
    send('pointermove', 0, 20)
    expect(shown.map((one) => one && startOf(one.doc))).toEqual([188_500, 188_200])
    expect(startOf()).toBe(188_000)
    send('pointerup', 0, 20)
    expect(startOf()).toBe(188_200)
    expect(stage.store.getState().document.pending).toHaveLength(1)
    expect(shown.at(-1)).toBeNull()
  })

  it('is a click where it goes nowhere', () => {
    const clicked: string[] = []
    drag({ onClick: () => clicked.push('a') })
    send('pointermove', 1, 1)
    send('pointerup', 1, 1)
    expect([clicked, stage.store.getState().document.pending]).toEqual([['a'], []])
  })

  it('says while it lasts why it can’t be let go there, and keeps the last place where it could', () => {
    drag()
    send('pointermove', 0, 100)
    send('pointermove', 0, 7000)
    expect(shown.at(-1)).toMatchObject({
      refused: true,
      label: expect.stringContaining('sound over') as string,
    })
    expect(refused).toEqual([null, 'a'])
    send('pointerup', 0, 7000)
    expect(startOf()).toBe(189_000)
  })

  it('leaves all as it was with Esc, the gate, too', () => {
    stage.transport.goToFrame(5)
    drag({ follow: (doc) => startOf(doc) ?? null })
    send('pointermove', 0, 50)
    expect(stage.transport.sample).toBe(188_500)
    page.dispatchEvent(Object.assign(new Event('keydown'), { key: 'Escape' }))
    send('pointerup', 0, 50)
    expect([startOf(), stage.transport.frame, stage.store.getState().document.pending]).toEqual([
      188_000,
      5,
      [],
    ])
  })

  it('says what it does in the words of its plan, or of the edit', () => {
    drag({ tell: (doc) => `at ${startOf(doc)}` })
    send('pointermove', 0, 10)
    send('pointercancel', 0, 10)
    drag()
    send('pointermove', 0, 10)
    expect(shown.flatMap((one) => one?.label ?? [])).toEqual(['at 188100', 'Move Lever'])
    send('pointercancel', 0, 10)
  })

  it('writes nothing where nothing could be done at all, and does not begin by another button', () => {
    drag({ compute: () => refuse('CORE_LOCKED', 'Lever') })
    send('pointermove', 0, 10)
    send('pointerup', 0, 10)
    drag({ compute: () => ok({ label: 'x', added: [], updated: [], removed: [] }) }, 2)
    send('pointermove', 0, 10)
    send('pointerup', 0, 10)
    expect(stage.store.getState().document.pending).toEqual([])
  })
})
