import { CATEGORIES, CATEGORY_NAMES, FRAME_RATES } from '@yodel/core'
import { useEffect } from 'react'
import { useAppDispatch, useAppStore } from '../../app/store.js'
import { openPictureWindow } from '../../picture/otherWindow.js'
import { SPEEDS } from '../transport/Transport.js'
import { useCommands } from './commands.js'
import { useMarks, useReel, useSession } from './session.js'
import { viewActions } from './viewSlice.js'

/** The keys of the Sheet as the help lists them. */
export const KEY_LIST: readonly (readonly [keys: string, what: string])[] = [
  ['Space', 'play and stop'],
  ['J  K  L', 'slower or back, stop, play or faster'],
  ['↓  ↑', 'one frame on, back; with Shift one second'],
  ['PageDown  PageUp', 'next, previous cue'],
  ['Home  End', 'first, last frame'],
  ['.', 'type a time to go to'],
  ...CATEGORIES.map((category, index) => [String(index + 1), `drop a cue: ${category}, ${CATEGORY_NAMES[category].toLowerCase()}; held while rolling, until release`] as const),
  ['R', 'drop the last cue again here, with its words'],
  ['B', 'back three seconds, rolling on'],
  ['O  Shift O', 'next, previous onset of the guide'],
  ['C  Shift C', 'next, previous cut of the picture'],
  ['F', 'gate to the nearest onset or cut'],
  ['N', 'note or question on the cue, or at the gate'],
  ['Enter', 'edit the words; while trying, keep'],
  ['Esc', 'leave; while trying, put back'],
  ['[  ]  \\', 'cue’s in, out, sync point at the gate'],
  ['/', 'search sounds; ↓ ↑ listen, Enter tries'],
  ['T', 'try the chosen sound on the cue'],
  ['Alt ↓  Alt ↑', 'move the sound a frame later, earlier; with Shift a tenth of a frame'],
  ['M  S', 'mute the sound, solo its track'],
  ['Delete', 'delete what is selected'],
  ['Ctrl Z  Ctrl Shift Z', 'undo, redo'],
  ['+  −', 'closer, farther'],
  ['G', 'guide on or off'],
  ['P', 'picture strip on or off'],
  ['V', 'overview of the reel on or off'],
  ['W', 'picture in a window of its own'],
  ['?', 'this list'],
]

const isField = (target: EventTarget | null): boolean => target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** Listens to the keys of the Sheet while it is shown. Keys never act while somebody types in a field. */
export function useSheetKeys(): void {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const commands = useCommands()
  const { transport } = useSession()
  const reel = useReel()
  const marks = useMarks()
  useEffect(() => {
    const second = FRAME_RATES[reel.rate].nominal
    const held = new Map<string, string>()

    const shuttle = (direction: 1 | -1): void => {
      const at = SPEEDS.indexOf(transport.speed as (typeof SPEEDS)[number])
      if (direction > 0 && transport.rolling) transport.setSpeed(SPEEDS[Math.min(SPEEDS.length - 1, at + 1)] ?? 1)
      else if (direction > 0) transport.play()
      else if (transport.rolling && at > 0) transport.setSpeed(SPEEDS[at - 1] ?? 1)
      else transport.goToFrame(transport.frame - 2 * second)
    }

    const plain: Record<string, (event: KeyboardEvent) => void> = {
      ' ': () => transport.toggle(),
      'j': () => shuttle(-1),
      'k': () => transport.stop(),
      'l': () => shuttle(1),
      'ArrowDown': (event) => transport.step(event.shiftKey ? second : 1),
      'ArrowUp': (event) => transport.step(event.shiftKey ? -second : -1),
      'PageDown': commands.nextCue,
      'PageUp': commands.previousCue,
      'Home': () => transport.goToFrame(0),
      'End': () => transport.goToFrame(reel.length - 1),
      '.': () => document.querySelector<HTMLElement>('[data-timecode]')?.click(),
      'Enter': () => (commands.trying() ? commands.keep() : commands.typeWords()),
      'Escape': () => {
        if (commands.trying()) commands.putBack()
        else dispatch(viewActions.select([]))
      },
      'r': commands.spotAgain,
      'b': commands.back,
      'o': (event) => commands.goToMark(marks.onsets, event.shiftKey ? -1 : 1, 'onset'),
      'c': (event) => commands.goToMark(marks.cuts, event.shiftKey ? -1 : 1, 'cut'),
      'f': () => commands.snap([...marks.onsets, ...marks.cuts]),
      'n': commands.note,
      'v': () => dispatch(viewActions.toggleOverview()),
      'w': openPictureWindow,
      '[': commands.setIn,
      ']': commands.setOut,
      '\\': commands.setSync,
      't': commands.tryHere,
      'm': commands.mute,
      's': commands.solo,
      'Delete': commands.remove,
      'Backspace': commands.remove,
      '+': () => commands.zoomBy(1.25),
      '=': () => commands.zoomBy(1.25),
      '-': () => commands.zoomBy(0.8),
      'g': () => dispatch(viewActions.setGuide(store.getState().view.guide > 0 ? 0 : 1)),
      'p': () => dispatch(viewActions.toggleStrip()),
      '?': () => dispatch(viewActions.setHelp(true)),
      '/': () => {
        if (!store.getState().view.showSounds) dispatch(viewActions.toggleSounds())
        requestAnimationFrame(() => document.querySelector<HTMLInputElement>('[data-search]')?.select())
      },
    }

    const onDown = (event: KeyboardEvent): void => {
      if (isField(event.target) || event.defaultPrevented) return
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
      if (event.ctrlKey || event.metaKey) return
      if (event.altKey) {
        if (key !== 'ArrowDown' && key !== 'ArrowUp') return
        event.preventDefault()
        const sign = key === 'ArrowDown' ? 1 : -1
        return event.shiftKey ? commands.nudgeTenths(sign) : commands.nudgeFrames(sign)
      }
      const category = CATEGORIES[Number(key) - 1]
      if (category) {
        event.preventDefault()
        if (event.repeat || held.has(event.code)) return
        // The cue is there while the key is still down; its words are typed and its end is known at release.
        const id = commands.spot(category)
        if (id !== null) held.set(event.code, id)
        return
      }
      const act = plain[key]
      const onControl =
        event.target instanceof HTMLElement && event.target.closest('button, a, [role="radio"]') !== null && !event.target.closest('[data-clip], [data-cue], [data-timecode]')
      if (!act || (onControl && (key === ' ' || key === 'Enter'))) return
      event.preventDefault()
      act(event)
    }
    const onUp = (event: KeyboardEvent): void => {
      const id = held.get(event.code)
      if (id === undefined) return
      held.delete(event.code)
      commands.endSpot(id)
    }
    window.addEventListener('keydown', onDown)
    window.addEventListener('keyup', onUp)
    return () => {
      window.removeEventListener('keydown', onDown)
      window.removeEventListener('keyup', onUp)
    }
  }, [dispatch, store, commands, transport, marks, reel.rate, reel.length])
}
