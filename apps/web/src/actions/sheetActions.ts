import { CATEGORIES, CATEGORY_NAMES, FRAME_RATES } from '@yodel/core'
import { useMemo } from 'react'
import { useAppDispatch, useAppStore } from '../document/store.js'
import { openPictureWindow } from '../picture/otherWindow.js'
import { SPEEDS } from '../session/Transport.js'
import { useCompare } from '../commands/compareBalances.js'
import { useCommands } from '../commands/commands.js'
import { useMarks, useReel, useSession } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'

/** Something an editor can do on the Sheet: by its key, from the list of keys, and from the palette. */
export interface SheetAction {
  /** `event.key`, letters in lower case. */
  readonly press: string
  readonly with?: 'shift' | 'alt' | 'alt shift' | 'ctrl' | 'ctrl shift'
  /** The key as it is written on the keyboard. */
  readonly keys: string
  readonly what: string
  readonly run: () => void
}

/** All actions of the Sheet, in the order in which they are listed. */
export function useSheetActions(): readonly SheetAction[] {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const commands = useCommands()
  const { transport } = useSession()
  const reel = useReel()
  const marks = useMarks()
  const compare = useCompare()
  return useMemo(() => {
    const second = FRAME_RATES[reel.rate].nominal
    const faster = (): void => {
      const at = SPEEDS.indexOf(transport.speed as (typeof SPEEDS)[number])
      if (transport.rolling) transport.setSpeed(SPEEDS[Math.min(SPEEDS.length - 1, at + 1)] ?? 1)
      else transport.play()
    }
    const slower = (): void => {
      const at = SPEEDS.indexOf(transport.speed as (typeof SPEEDS)[number])
      if (transport.rolling && at > 0) transport.setSpeed(SPEEDS[at - 1] ?? 1)
      else transport.goToFrame(transport.frame - 2 * second)
    }
    const nextRide = (): void => {
      const { ride } = store.getState().view
      dispatch(viewActions.setRide(ride === null ? 'level' : ride === 'level' ? 'pan' : null))
    }
    const search = (): void => {
      const select = (): void => document.querySelector<HTMLInputElement>('[data-search]')?.select()
      // At once where the pane is open: the next letter may come before the next refresh, and is a key of the Sheet until then.
      if (store.getState().view.showSounds) return select()
      dispatch(viewActions.toggleSounds())
      requestAnimationFrame(select)
    }
    // Keys of the pane of sounds, also while the Sheet has the keyboard.
    const toPane = (key: string, altKey = true): void => {
      document
        .querySelector('[data-sounds] [role="listbox"]')
        ?.dispatchEvent(new KeyboardEvent('keydown', { key, altKey, bubbles: true }))
    }
    // While trying, the arrows go through the candidates: those of the shortlist, if the tried one stands on it, else the results.
    const stepOrSwap = (by: 1 | -1): void => {
      if (!commands.trying()) transport.step(by)
      else if (!commands.tryBeside(by)) toPane(by > 0 ? 'ArrowDown' : 'ArrowUp', false)
    }
    const leave = (): void => {
      if (commands.endFollowing(false)) return
      if (store.getState().view.riding)
        return commands.rideLive(store.getState().view.riding?.trackId, store.getState().view.riding?.what)
      if (commands.trying()) commands.putBack()
      else dispatch(viewActions.select([]))
    }
    const actions: SheetAction[] = [
      { press: ' ', keys: 'Space', what: 'Play or stop', run: () => transport.toggle() },
      { press: 'j', keys: 'J', what: 'Slower; stopped, back two seconds', run: slower },
      { press: 'k', keys: 'K', what: 'Stop', run: () => transport.stop() },
      { press: 'l', keys: 'L', what: 'Play; rolling, faster', run: faster },
      { press: 'b', keys: 'B', what: 'Back three seconds, rolling on', run: commands.back },
      {
        press: 'ArrowDown',
        keys: '↓',
        what: 'One frame on; while trying, the next candidate',
        run: () => stepOrSwap(1),
      },
      {
        press: 'ArrowUp',
        keys: '↑',
        what: 'One frame back; while trying, the candidate before',
        run: () => stepOrSwap(-1),
      },
      {
        press: 'ArrowDown',
        with: 'shift',
        keys: 'Shift ↓',
        what: 'One second on',
        run: () => transport.step(second),
      },
      {
        press: 'ArrowUp',
        with: 'shift',
        keys: 'Shift ↑',
        what: 'One second back',
        run: () => transport.step(-second),
      },
      { press: 'PageDown', keys: 'PageDown', what: 'Next cue', run: commands.nextCue },
      { press: 'PageUp', keys: 'PageUp', what: 'Previous cue', run: commands.previousCue },
      { press: 'Home', keys: 'Home', what: 'First frame', run: () => transport.goToFrame(0) },
      { press: 'End', keys: 'End', what: 'Last frame', run: () => transport.goToFrame(reel.length - 1) },
      {
        press: '.',
        keys: '.',
        what: 'Type a time to go to',
        run: () => document.querySelector<HTMLElement>('[data-timecode]')?.click(),
      },
      {
        press: 'o',
        keys: 'O',
        what: 'Next onset of the guide',
        run: () => commands.goToMark(marks.onsets, 1, 'onset'),
      },
      {
        press: 'o',
        with: 'shift',
        keys: 'Shift O',
        what: 'Previous onset',
        run: () => commands.goToMark(marks.onsets, -1, 'onset'),
      },
      {
        press: 'c',
        keys: 'C',
        what: 'Next cut of the picture',
        run: () => commands.goToMark(marks.cuts, 1, 'cut'),
      },
      {
        press: 'c',
        with: 'shift',
        keys: 'Shift C',
        what: 'Previous cut',
        run: () => commands.goToMark(marks.cuts, -1, 'cut'),
      },
      {
        press: 'f',
        keys: 'F',
        what: 'Gate to the nearest onset or cut',
        run: () => commands.snap([...marks.onsets, ...marks.cuts]),
      },
      ...CATEGORIES.map((category, index) => ({
        press: String(index + 1),
        keys: String(index + 1),
        what: `Drop a cue: ${category}, ${CATEGORY_NAMES[category].toLowerCase()}`,
        run: () => {
          const id = commands.spot(category)
          if (id !== null) commands.endSpot(id)
        },
      })),
      {
        press: 'r',
        keys: 'R',
        what: 'Drop the last cue again here, with its words',
        run: commands.spotAgain,
      },
      {
        press: 'Enter',
        keys: 'Enter',
        what: 'Edit the words; while trying, keep',
        run: () =>
          commands.endFollowing(true)
            ? undefined
            : commands.trying()
              ? commands.keep()
              : commands.typeWords(),
      },
      {
        press: 'Enter',
        with: 'shift',
        keys: 'Shift Enter',
        what: 'While trying: hold this layer, try another beside it',
        run: commands.hold,
      },
      { press: 'Escape', keys: 'Esc', what: 'Leave; while trying, put back', run: leave },
      { press: '[', keys: '[', what: 'Cue or sound begins at the gate', run: commands.setIn },
      { press: ']', keys: ']', what: 'Cue or sound ends at the gate', run: commands.setOut },
      { press: '\\', keys: '\\', what: 'Sync point of the cue or sound at the gate', run: commands.setSync },
      { press: 'n', keys: 'N', what: 'Note or question on the cue, or at the gate', run: commands.note },
      { press: '/', keys: '/', what: 'Search sounds; ↓ ↑ listen, Enter tries', run: search },
      {
        press: 'ArrowRight',
        with: 'alt',
        keys: 'Alt →',
        what: 'Sounds: next event of the chosen recording (→ in the list)',
        run: () => toPane('ArrowRight'),
      },
      {
        press: 'ArrowLeft',
        with: 'alt',
        keys: 'Alt ←',
        what: 'Sounds: previous event (← in the list)',
        run: () => toPane('ArrowLeft'),
      },
      {
        press: 'k',
        with: 'alt',
        keys: 'Alt K',
        what: 'Sounds: put the chosen one into the current kit',
        run: () => toPane('k'),
      },
      {
        press: 'r',
        with: 'alt',
        keys: 'Alt R',
        what: 'Sounds: any one of the results',
        run: () => toPane('r'),
      },
      ...[0, 1, 2, 3, 4, 5].map((rating) => ({
        press: String(rating),
        with: 'alt' as const,
        keys: `Alt ${rating}`,
        what: `Sounds: rate the chosen one ${rating}`,
        run: () => toPane(String(rating)),
      })),
      { press: 't', keys: 'T', what: 'Try the chosen sound on the cue', run: commands.tryHere },
      {
        press: 't',
        with: 'shift',
        keys: 'Shift T',
        what: 'Try the next of the cue’s shortlist',
        run: () => commands.tryShortlist(1),
      },
      {
        press: 'l',
        with: 'shift',
        keys: 'Shift L',
        what: 'Put the chosen sound on the cue’s shortlist',
        run: commands.shortlist,
      },
      {
        press: 'ArrowDown',
        with: 'alt',
        keys: 'Alt ↓',
        what: 'Move the sound a frame later',
        run: () => commands.nudgeFrames(1),
      },
      {
        press: 'ArrowUp',
        with: 'alt',
        keys: 'Alt ↑',
        what: 'Move the sound a frame earlier',
        run: () => commands.nudgeFrames(-1),
      },
      {
        press: 'ArrowDown',
        with: 'alt shift',
        keys: 'Alt Shift ↓',
        what: 'A tenth of a frame later',
        run: () => commands.nudgeTenths(1),
      },
      {
        press: 'ArrowUp',
        with: 'alt shift',
        keys: 'Alt Shift ↑',
        what: 'A tenth of a frame earlier',
        run: () => commands.nudgeTenths(-1),
      },
      {
        press: 'ArrowDown',
        with: 'ctrl',
        keys: 'Ctrl ↓',
        what: 'Move the sound inside its clip a frame later',
        run: () => commands.slipFrames(1),
      },
      {
        press: 'ArrowUp',
        with: 'ctrl',
        keys: 'Ctrl ↑',
        what: 'Move the sound inside its clip a frame earlier',
        run: () => commands.slipFrames(-1),
      },
      {
        press: 'ArrowDown',
        with: 'ctrl shift',
        keys: 'Ctrl Shift ↓',
        what: 'Boundary with the sound that follows a frame later',
        run: () => commands.rollFrames(1),
      },
      {
        press: 'ArrowUp',
        with: 'ctrl shift',
        keys: 'Ctrl Shift ↑',
        what: 'Boundary with the sound that follows a frame earlier',
        run: () => commands.rollFrames(-1),
      },
      {
        press: 'ArrowRight',
        with: 'alt shift',
        keys: 'Alt Shift →',
        what: 'Move the sounds to the track at the right',
        run: () => commands.moveAcross(1),
      },
      {
        press: 'ArrowLeft',
        with: 'alt shift',
        keys: 'Alt Shift ←',
        what: 'Move the sounds to the track at the left',
        run: () => commands.moveAcross(-1),
      },
      {
        press: '[',
        with: 'alt',
        keys: 'Alt [',
        what: 'Sound fades in until the gate',
        run: () => commands.fadeToGate('fadeIn'),
      },
      {
        press: ']',
        with: 'alt',
        keys: 'Alt ]',
        what: 'Sound fades out from the gate',
        run: () => commands.fadeToGate('fadeOut'),
      },
      { press: 'm', keys: 'M', what: 'Mute the sound', run: commands.mute },
      { press: 's', keys: 'S', what: 'Solo the sound’s track', run: commands.solo },
      { press: 'Delete', keys: 'Delete', what: 'Delete what is selected', run: commands.remove },
      { press: 'x', keys: 'X', what: 'Split the sound at the gate', run: commands.split },
      { press: 'd', keys: 'D', what: 'Duplicate the sounds behind themselves', run: commands.duplicate },
      {
        press: 'e',
        keys: 'E',
        what: 'Repeat the sound to the end of its cue, or to the gate',
        run: commands.repeat,
      },
      { press: 'q', keys: 'Q', what: 'Crossfade the selected sounds', run: commands.crossfade },
      { press: 'y', keys: 'Y', what: 'Turn the sound round', run: commands.reverse },
      {
        press: 'y',
        with: 'shift',
        keys: 'Shift Y',
        what: 'Exchange left and right of the sound',
        run: commands.swapSides,
      },
      { press: 'c', with: 'ctrl', keys: 'Ctrl C', what: 'Copy the sounds', run: commands.copy },
      { press: 'x', with: 'ctrl', keys: 'Ctrl X', what: 'Cut the sounds out', run: commands.cut },
      {
        press: 'v',
        with: 'ctrl',
        keys: 'Ctrl V',
        what: 'Lay what was copied at the gate',
        run: commands.paste,
      },
      { press: 'g', with: 'ctrl', keys: 'Ctrl G', what: 'Group the sounds', run: () => commands.group(true) },
      {
        press: 'g',
        with: 'ctrl shift',
        keys: 'Ctrl Shift G',
        what: 'Ungroup',
        run: () => commands.group(false),
      },
      { press: 'u', keys: 'U', what: 'Lock or unlock the sounds', run: commands.toggleLock },
      { press: '+', with: 'alt', keys: 'Alt +', what: 'Sound 1 dB louder', run: () => commands.gainBy(1) },
      { press: '-', with: 'alt', keys: 'Alt −', what: 'Sound 1 dB softer', run: () => commands.gainBy(-1) },
      {
        press: '-',
        with: 'alt shift',
        keys: 'Alt Shift −',
        what: 'Each of the selected sounds 3 dB softer than the one before',
        run: () => commands.stepGain(-3),
      },
      { press: 'a', with: 'ctrl', keys: 'Ctrl A', what: 'Select all sounds', run: commands.chooseAll },
      { press: 'a', keys: 'A', what: 'Select all sounds after the gate', run: commands.chooseAfter },
      {
        press: 'a',
        with: 'shift',
        keys: 'Shift A',
        what: 'Select the sounds of the same recording',
        run: () => commands.chooseLike('sound'),
      },
      {
        press: 'a',
        with: 'alt',
        keys: 'Alt A',
        what: 'Select the sounds of the same category',
        run: () => commands.chooseLike('category'),
      },
      {
        press: 'a',
        with: 'alt shift',
        keys: 'Alt Shift A',
        what: 'Select the sounds of the same track',
        run: () => commands.chooseLike('track'),
      },
      {
        press: 't',
        with: 'alt',
        keys: 'Alt T',
        what: 'Swap the selected sounds for the chosen one',
        run: commands.swap,
      },
      {
        press: 'e',
        with: 'alt',
        keys: 'Alt E',
        what: 'Swap for the next event of the same recording',
        run: () => void commands.swapEvent(1),
      },
      {
        press: 'e',
        with: 'alt shift',
        keys: 'Alt Shift E',
        what: 'Swap for the event before',
        run: () => void commands.swapEvent(-1),
      },
      {
        press: 'w',
        with: 'alt',
        keys: 'Alt W',
        what: 'Swap for another like it, lighter',
        run: () => void commands.swapAlike('lighter'),
      },
      {
        press: 'w',
        with: 'alt shift',
        keys: 'Alt Shift W',
        what: 'Swap for another like it, heavier',
        run: () => void commands.swapAlike('heavier'),
      },
      {
        press: 'l',
        with: 'alt',
        keys: 'Alt L',
        what: 'Swap for the next of the cue’s shortlist',
        run: () => void commands.swapShortlisted(),
      },
      {
        press: 'h',
        with: 'alt',
        keys: 'Alt H',
        what: 'Lay the next event of the chosen recording at the gate',
        run: () => void commands.layNextEvent(),
      },
      {
        press: 'h',
        keys: 'H',
        what: 'Lay the events of the chosen recording on the cue and the next ones',
        run: () => void commands.layEvents(),
      },
      { press: 's', with: 'alt', keys: 'Alt S', what: 'Solo only the sound’s track', run: commands.soloOnly },
      {
        press: 'Delete',
        with: 'alt',
        keys: 'Alt Delete',
        what: 'Remove tracks on which nothing lies',
        run: commands.removeEmptyTracks,
      },
      { press: 'i', keys: 'I', what: 'Draw rides: level, pan, none', run: nextRide },
      {
        press: 'r',
        with: 'shift',
        keys: 'Shift R',
        what: 'Ride the track live while playing, or end it',
        run: () => commands.rideLive(),
      },
      {
        press: 'ArrowLeft',
        keys: '←',
        what: 'Riding live: lower, or to the left',
        run: () => void commands.rideBy(-1),
      },
      {
        press: 'ArrowRight',
        keys: '→',
        what: 'Riding live: louder, or to the right',
        run: () => void commands.rideBy(1),
      },
      {
        press: 'i',
        with: 'shift',
        keys: 'Shift I',
        what: 'Pan follows clicks on the picture',
        run: commands.follow,
      },
      {
        press: 'b',
        with: 'shift',
        keys: 'Shift B',
        what: 'Balance: loudness and treatment of stems and the whole',
        run: () => dispatch(viewActions.toggleBalance()),
      },
      {
        press: 'b',
        with: 'alt',
        keys: 'Alt B',
        what: 'Hear the earlier balance laid beside, as loud; again, the present one',
        run: () => void compare.toggle(),
      },
      {
        press: 'h',
        with: 'shift',
        keys: 'Shift H',
        what: 'History of the reel',
        run: () => dispatch(viewActions.setHistory(true)),
      },
      { press: 'z', with: 'ctrl', keys: 'Ctrl Z', what: 'Undo', run: commands.undo },
      { press: 'z', with: 'ctrl shift', keys: 'Ctrl Shift Z', what: 'Redo', run: commands.redo },
      { press: '+', keys: '+', what: 'Closer', run: () => commands.zoomBy(1.25) },
      { press: '-', keys: '−', what: 'Farther', run: () => commands.zoomBy(0.8) },
      {
        press: 'g',
        keys: 'G',
        what: 'Guide on or off',
        run: () => dispatch(viewActions.setGuide(store.getState().view.guide > 0 ? 0 : 1)),
      },
      {
        press: 'p',
        keys: 'P',
        what: 'Picture strip on or off',
        run: () => dispatch(viewActions.toggleStrip()),
      },
      {
        press: 'v',
        keys: 'V',
        what: 'Overview of the reel on or off',
        run: () => dispatch(viewActions.toggleOverview()),
      },
      { press: 'w', keys: 'W', what: 'Picture in a window of its own', run: openPictureWindow },
      {
        press: 'k',
        with: 'ctrl',
        keys: 'Ctrl K',
        what: 'Find any of these by its name',
        run: () => dispatch(viewActions.setPalette(true)),
      },
      { press: '?', keys: '?', what: 'All keys', run: () => dispatch(viewActions.setHelp(true)) },
    ]
    return actions
  }, [dispatch, store, commands, compare, transport, marks, reel.rate, reel.length])
}
