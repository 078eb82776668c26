import { FRAME_RATES, syncPlace, type Clip } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { viewActions } from '../document/viewSlice.js'
import { setStage, type Stage } from '../test/stage.js'
import { makeClipHands, type ClipHands } from './clipHands.js'
import type { Dragging } from './startDrag.js'

const FRAME = 2000
/** A frame is ten pixels. */
const ZOOM = 10

interface Held {
  readonly shiftKey?: boolean
  readonly altKey?: boolean
  readonly ctrlKey?: boolean
}
const pointer = (type: string, clientX: number, clientY: number, held: Held = {}): Event =>
  Object.assign(new Event(type), {
    ...{
      clientX,
      clientY,
      pointerId: 1,
      button: 0,
      shiftKey: false,
      altKey: false,
      ctrlKey: false,
      metaKey: false,
    },
    ...held,
    ...{ preventDefault: () => undefined, stopPropagation: () => undefined },
  })

const before = globalThis.window
const page = new EventTarget()
let stage: Stage
let hands: ClipHands
let labels: string[]
let under: string | null
beforeEach(() => {
  Object.assign(globalThis, { window: page })
  let doc = placed(testReel(), 'a', 100)
  doc = placed(doc, 'b', 124, { trackId: 't-a' })
  stage = setStage(placed(doc, 'c', 300))
  stage.store.dispatch(viewActions.zoomTo(ZOOM))
  labels = []
  under = null
  hands = makeClipHands({
    ...{ store: stage.store, transport: stage.transport, rate: FRAME_RATES['24'], firstFrame: 86_400 },
    ...{ marks: () => ({ onsets: [310], cuts: [] }), trackAt: () => under },
    show: (dragging: Dragging | null) => void (dragging && labels.push(dragging.label)),
  })
})
afterEach(() => void Object.assign(globalThis, { window: before }))

const clip = (id: string): Clip => stage.doc().clip.get(id) as Clip
/** Presses, moves by pixels, lets go. */
function drag(bound: Record<string, unknown>, x: number, y: number, held: Held = {}): void {
  const press = bound['onPointerDown'] as (event: unknown) => void
  press(pointer('pointerdown', 0, 0, held))
  page.dispatchEvent(pointer('pointermove', x, y, held))
  page.dispatchEvent(pointer('pointerup', x, y, held))
}

describe('a sound that is moved by its body', () => {
  it('goes to whole frames, and says where and how far', () => {
    drag(hands.bindBody(clip('c')), 0, 23)
    expect(syncPlace(clip('c'))).toBe(302 * FRAME)
    expect(labels.at(-1)).toBe('01:00:12:14  +2 fr')
    expect(stage.selected()).toEqual(['c'])
  })

  it('is drawn to a mark that is near, and stays anywhere with Ctrl', () => {
    drag(hands.bindBody(clip('c')), 0, 95)
    expect(syncPlace(clip('c'))).toBe(310 * FRAME)
    expect(labels.at(-1)).toMatch(/, on an onset$/)
    drag(hands.bindBody(clip('c')), 0, 23, { ctrlKey: true })
    expect(syncPlace(clip('c'))).toBe(310 * FRAME + 4600)
    expect(labels.at(-1)).toMatch(/\+2\.30 fr$/)
  })

  it('goes to the track under the pointer, alone', () => {
    under = 't-a'
    drag(hands.bindBody(clip('c')), 200, 30)
    expect(clip('c').trackId).toBe('t-a')
  })

  it('takes all that are selected along, in one step', () => {
    stage.store.dispatch(viewActions.select(['a', 'b']))
    drag(hands.bindBody(clip('a')), 0, 50)
    expect([syncPlace(clip('a')), syncPlace(clip('b'))]).toEqual([105 * FRAME, 129 * FRAME])
    expect(stage.store.getState().document.pending).toHaveLength(1)
  })

  it('meets a neighbour in a crossfade with Shift, and is refused there without', () => {
    drag(hands.bindBody(clip('b')), 0, -30)
    expect(syncPlace(clip('b'))).toBe(124 * FRAME)
    stage.store.dispatch(viewActions.select([]))
    drag(hands.bindBody(clip('b')), 0, -30, { shiftKey: true })
    expect(syncPlace(clip('b'))).toBe(121 * FRAME)
    expect(clip('a').fadeOut).toBe(clip('b').fadeIn)
  })

  it('moves what is heard inside it with Alt', () => {
    drag(hands.bindTrim(clip('c'), 'head'), 0, 40)
    const { start, offset } = clip('c')
    drag(hands.bindBody(clip('c')), 0, 10, { altKey: true })
    expect([clip('c').start, clip('c').offset]).toEqual([start, offset - FRAME])
    expect(labels.at(-1)).toBe('Lever slipped +1 fr')
  })

  it('is selected with its group when it gets the keyboard', () => {
    ;(hands.bindBody(clip('b'))['onFocus'] as () => void)()
    expect(stage.selected()).toEqual(['b'])
  })
})

describe('the handles of a sound', () => {
  it('trim an end to whole frames, the picture going along', () => {
    drag(hands.bindTrim(clip('c'), 'tail'), 0, -42)
    expect(clip('c').start + clip('c').length).toBe(300 * FRAME + 36_000 - 4 * FRAME)
    expect(stage.transport.frame).toBe(313)
  })

  it('roll the boundary of two that meet with Alt', () => {
    drag(hands.bindTrim(clip('a'), 'tail'), 0, -40)
    drag(hands.bindTrim(clip('b'), 'head'), 0, 20)
    drag(hands.bindBody(clip('b')), 0, -60)
    const boundary = clip('b').start
    expect(boundary).toBe(clip('a').start + clip('a').length)
    drag(hands.bindTrim(clip('b'), 'head'), 0, 20, { altKey: true })
    expect([clip('b').start, clip('a').start + clip('a').length]).toEqual([
      boundary + 2 * FRAME,
      boundary + 2 * FRAME,
    ])
  })

  it('make fades longer inwards, and say how long in milliseconds', () => {
    const { fadeIn, fadeOut } = clip('c')
    drag(hands.bindFade(clip('c'), 'fadeIn'), 0, 24)
    drag(hands.bindFade(clip('c'), 'fadeOut'), 0, -24)
    expect([clip('c').fadeIn, clip('c').fadeOut]).toEqual([fadeIn + 4800, fadeOut + 4800])
    expect(labels.at(-1)).toBe('Fade out 110 ms')
  })

  it('turn the gain by quarters of a decibel a pixel, by tenths of that with Shift', () => {
    drag(hands.bindGain(clip('c')), 12, 0)
    expect(clip('c').gain).toBe(3)
    stage.store.dispatch(viewActions.select([]))
    drag(hands.bindGain(clip('c')), 12, 0, { shiftKey: true })
    expect(clip('c').gain).toBeCloseTo(3.3, 9)
    expect(labels.at(-1)).toBe('Lever: 3.3 dB')
  })
})
