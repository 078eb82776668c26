import { CATEGORIES, CATEGORY_NAMES } from '@yodel/core'
import type { Commands } from '../commands/commands.js'
import { readTable, type Action, type Line } from './action.js'
import { RATINGS } from './resultActions.js'

/** Undo and redo: on every page of a reel. */
export const REEL_ACTIONS = readTable<Commands>([
  ['undo', 'Ctrl z', 'Undo', (c) => c.undo()],
  ['redo', 'Ctrl Shift z or Ctrl y', 'Redo', (c) => c.redo()],
])

const MOVING: readonly Line<Commands>[] = [
  ['play', 'Space', 'Play or stop', (c) => c.move.toggle()],
  ['slower', 'j', 'Slower; stopped, back two seconds', (c) => c.move.slower()],
  ['stop', 'k', 'Stop', (c) => c.move.stop()],
  ['faster', 'l', 'Play; rolling, faster', (c) => c.move.faster()],
  ['back', 'b', 'Back three seconds, rolling on', (c) => c.move.back()],
  ['next-frame', 'ArrowDown', 'One frame on; while trying, the next candidate', (c) => c.doing.step(1)],
  [
    'previous-frame',
    'ArrowUp',
    'One frame back; while trying, the candidate before',
    (c) => c.doing.step(-1),
  ],
  ['next-second', 'Shift ArrowDown', 'One second on', (c) => c.move.stepSeconds(1)],
  ['previous-second', 'Shift ArrowUp', 'One second back', (c) => c.move.stepSeconds(-1)],
  ['next-cue', 'PageDown', 'Next cue; in a draft, leave this one as it is', (c) => c.doing.nextCue()],
  ['previous-cue', 'PageUp', 'Previous cue', (c) => c.move.previousCue()],
  ['next-finding', 'Alt PageDown', 'Next finding of the turnover', (c) => c.findings.next(1)],
  ['previous-finding', 'Alt PageUp', 'Previous finding', (c) => c.findings.next(-1)],
  ['first-frame', 'Home', 'First frame', (c) => c.move.first()],
  ['last-frame', 'End', 'Last frame', (c) => c.move.last()],
  ['go-to', '.', 'Type a time to go to', (c) => c.look.typeTime()],
  ['next-onset', 'o', 'Next onset of the guide', (c) => c.move.onset(1)],
  ['previous-onset', 'Shift o', 'Previous onset', (c) => c.move.onset(-1)],
  ['next-cut', 'c', 'Next cut of the picture', (c) => c.move.cut(1)],
  ['previous-cut', 'Shift c', 'Previous cut', (c) => c.move.cut(-1)],
  ['to-nearest', 'f', 'Gate to the nearest onset or cut', (c) => c.move.snap()],
]

const SPOTTING: readonly Line<Commands>[] = [
  ...CATEGORIES.map((category, index): Line<Commands> => [
    `drop-${category}`,
    String(index + 1),
    `Drop a cue: ${category}, ${CATEGORY_NAMES[category].toLowerCase()}`,
    // The cue is there while the key is still down; its words are typed and its end is known at release.
    (c) => {
      const id = c.spot.drop(category)
      if (id !== null) return () => c.spot.release(id)
    },
  ]),
  ['drop-again', 'r', 'Drop the last cue again here, with its words', (c) => c.spot.again()],
  ['enter', 'Enter', 'Edit the words; while trying, keep', (c) => c.doing.enter()],
  ['leave', 'Escape', 'Leave; while trying, put back', (c) => c.doing.leave()],
  ['set-in', '[', 'Cue or sound begins at the gate', (c) => c.spot.setIn()],
  ['set-out', ']', 'Cue or sound ends at the gate', (c) => c.spot.setOut()],
  ['set-sync', '\\', 'Sync point of the cue or sound at the gate', (c) => c.spot.setSync()],
  ['note', 'n', 'Note or question on the cue, or at the gate', (c) => c.spot.note()],
]

const FINDING: readonly Line<Commands>[] = [
  ['search', '/', 'Search sounds; ↓ ↑ listen, Enter tries', (c) => c.look.search()],
  [
    'next-event',
    'Alt .',
    'Sounds: next event of the chosen recording',
    (c) => c.look.results()?.stepEvent(1),
  ],
  ['previous-event', 'Alt ,', 'Sounds: previous event', (c) => c.look.results()?.stepEvent(-1)],
  [
    'put-in-kit',
    'Alt k',
    'Sounds: put the chosen one into the current kit',
    (c) => c.look.results()?.fillKit(),
  ],
  ['any-result', 'Alt r', 'Sounds: any one of the results', (c) => c.look.results()?.shuffle()],
  ...RATINGS.map((rating): Line<Commands> => [
    `rate-${rating}`,
    `Alt ${rating}`,
    `Sounds: rate the chosen one ${rating}`,
    (c) => c.look.results()?.rate(rating),
  ]),
  ['try', 't', 'Try the chosen sound on the cue, or the best result', (c) => c.tries.here()],
  [
    'hold-layer',
    'Shift Enter',
    'While trying: hold this layer, try another beside it',
    (c) => c.tries.hold(),
  ],
  ['try-shortlist', 'Shift t', 'Try the next of the cue’s shortlist', (c) => c.shortlist.tryNext()],
  [
    'draft',
    'Shift d',
    'Draft: first choices for all cues without sounds, or end it',
    (c) => c.draft.toggle(),
  ],
  ['put-on-shortlist', 'Shift l', 'Put the chosen sound on the cue’s shortlist', (c) => c.shortlist.add()],
]

const PLACING: readonly Line<Commands>[] = [
  ['frame-later', 'Alt ArrowDown', 'Move the sound a frame later', (c) => c.gate.nudgeFrames(1)],
  ['frame-earlier', 'Alt ArrowUp', 'Move the sound a frame earlier', (c) => c.gate.nudgeFrames(-1)],
  ['tenth-later', 'Alt Shift ArrowDown', 'A tenth of a frame later', (c) => c.gate.nudgeTenths(1)],
  ['tenth-earlier', 'Alt Shift ArrowUp', 'A tenth of a frame earlier', (c) => c.gate.nudgeTenths(-1)],
  [
    'slip-later',
    'Ctrl ArrowDown',
    'Move the sound inside its clip a frame later',
    (c) => c.gate.slipFrames(1),
  ],
  [
    'slip-earlier',
    'Ctrl ArrowUp',
    'Move the sound inside its clip a frame earlier',
    (c) => c.gate.slipFrames(-1),
  ],
  [
    'boundary-later',
    'Ctrl Shift ArrowDown',
    'Boundary with the sound that follows a frame later',
    (c) => c.gate.rollFrames(1),
  ],
  [
    'boundary-earlier',
    'Ctrl Shift ArrowUp',
    'Boundary with the sound that follows a frame earlier',
    (c) => c.gate.rollFrames(-1),
  ],
  [
    'track-right',
    'Alt Shift ArrowRight',
    'Move the sounds to the track on the right',
    (c) => c.gate.moveAcross(1),
  ],
  [
    'track-left',
    'Alt Shift ArrowLeft',
    'Move the sounds to the track on the left',
    (c) => c.gate.moveAcross(-1),
  ],
  ['fade-in', 'Alt [', 'Fade the sound in up to the gate', (c) => c.gate.fadeInToGate()],
  ['fade-out', 'Alt ]', 'Fade the sound out from the gate', (c) => c.gate.fadeOutFromGate()],
]

const SHAPING: readonly Line<Commands>[] = [
  ['mute', 'm', 'Mute the sound', (c) => c.shape.mute()],
  ['solo', 's', 'Solo the sound’s track', (c) => c.tracks.solo()],
  ['delete', 'Delete', 'Delete what is selected', (c) => c.shape.remove()],
  ['split', 'x', 'Split the sound at the gate', (c) => c.shape.split()],
  ['duplicate', 'd', 'Duplicate the sounds behind themselves', (c) => c.shape.duplicate()],
  ['repeat', 'e', 'Repeat the sound to the end of its cue, or to the gate', (c) => c.shape.repeat()],
  ['crossfade', 'q', 'Crossfade the selected sounds', (c) => c.shape.crossfade()],
  ['reverse', 'y', 'Reverse the sound', (c) => c.shape.reverse()],
  ['swap-sides', 'Shift y', 'Swap left and right of the sound', (c) => c.shape.swapSides()],
  ['copy', 'Ctrl c', 'Copy the sounds', (c) => c.shape.copy()],
  ['cut', 'Ctrl x', 'Cut the sounds out', (c) => c.shape.cut()],
  ['paste', 'Ctrl v', 'Lay what was copied at the gate', (c) => c.shape.paste()],
  ['group', 'Ctrl g', 'Group the sounds', (c) => c.shape.group()],
  ['ungroup', 'Ctrl Shift g', 'Ungroup; take a stack apart', (c) => c.shape.ungroup()],
  ['stack', 'Shift u', 'Make a stack of the sounds', (c) => c.shape.stack()],
  ['open-stack', 'Shift e', 'Open the stack to its layers, or close it', (c) => c.stacks.open()],
  ['lock', 'u', 'Lock or unlock the sounds', (c) => c.shape.toggleLock()],
  ['louder', 'Alt =', 'Sound 1 dB louder', (c) => c.shape.gainBy(1)],
  ['softer', 'Alt -', 'Sound 1 dB softer', (c) => c.shape.gainBy(-1)],
  [
    'stepped-softer',
    'Alt Shift -',
    'Each of the selected sounds 3 dB softer than the one before',
    (c) => c.shape.stepGain(-3),
  ],
]

const SELECTING: readonly Line<Commands>[] = [
  ['select-all', 'Ctrl a', 'Select all sounds', (c) => c.select.all()],
  ['select-after', 'a', 'Select all sounds after the gate', (c) => c.select.afterGate()],
  ['select-same-sound', 'Shift a', 'Select the sounds of the same recording', (c) => c.select.like('sound')],
  [
    'select-same-category',
    'Alt a',
    'Select the sounds of the same category',
    (c) => c.select.like('category'),
  ],
  ['select-same-track', 'Alt Shift a', 'Select the sounds of the same track', (c) => c.select.like('track')],
]

const SWAPPING: readonly Line<Commands>[] = [
  ['swap', 'Alt x', 'Swap the selected sounds for the chosen one', (c) => c.swap.forChosen()],
  [
    'swap-next-event',
    'Alt c',
    'Swap for the next event of the recording; a stack for its next variation',
    (c) => void c.swap.forNext(1),
  ],
  [
    'swap-previous-event',
    'Alt Shift c',
    'Swap for the event, or the variation, before',
    (c) => void c.swap.forNext(-1),
  ],
  ['swap-lighter', 'Alt w', 'Swap for another like it, lighter', (c) => void c.swap.forAlike('lighter')],
  [
    'swap-heavier',
    'Alt Shift w',
    'Swap for another like it, heavier',
    (c) => void c.swap.forAlike('heavier'),
  ],
  [
    'swap-shortlist',
    'Alt l',
    'Swap for the next of the cue’s shortlist',
    (c) => void c.swap.forShortlisted(),
  ],
]

const LAYING: readonly Line<Commands>[] = [
  [
    'lay-next-event',
    'Alt n',
    'Lay the next event of the chosen recording at the gate',
    (c) => void c.events.layNext(),
  ],
  [
    'lay-events',
    'h',
    'Lay the events of the chosen recording on the cue and the next ones',
    (c) => void c.events.lay(),
  ],
  ['solo-only', 'Shift s', 'Solo only the sound’s track', (c) => c.tracks.soloOnly()],
  ['remove-empty-tracks', '', 'Remove tracks that hold nothing', (c) => c.tracks.removeEmpty()],
]

const PERFORMING: readonly Line<Commands>[] = [
  [
    'perform',
    'Shift k',
    'Perform with pools on the keys of the bottom row, or end it',
    (c) => c.perform.toggle(),
  ],
]

const VOICES: readonly Line<Commands>[] = [
  ['say-line', 'Alt y', 'Let a voice say the cue’s words, or say them anew', (c) => void c.voices.say()],
  ['hear-line', 'Alt Shift y', 'Hear the line of the cue, or end that', (c) => void c.voices.hear()],
  ['say-all-lines', '', 'Let a voice say all dialogue cues', (c) => void c.voices.sayAll()],
]

const RECORDING: readonly Line<Commands>[] = [
  [
    'record',
    'Alt Shift r',
    'Record a take of the cue, or at the gate, or end it',
    (c) => void c.record.take(),
  ],
]

const RIDING: readonly Line<Commands>[] = [
  ['ride-live', 'Shift r', 'Ride the track live while playing, or end it', (c) => c.rides.live()],
  ['ride-down', 'ArrowLeft', 'Riding live: softer, or to the left', (c) => void c.rides.by(-1)],
  ['ride-up', 'ArrowRight', 'Riding live: louder, or to the right', (c) => void c.rides.by(1)],
  ['follow-picture', 'Shift i', 'Pan follows clicks on the picture', (c) => c.rides.follow()],
]

const LOOKING: readonly Line<Commands>[] = [
  ['closer', '=', 'Closer', (c) => c.move.zoomBy(1.25)],
  ['farther', '-', 'Farther', (c) => c.move.zoomBy(0.8)],
  ['guide', 'g', 'Guide on or off', (c) => c.look.guide()],
  ['strip', 'p', 'Picture strip on or off', (c) => c.look.strip()],
  ['picture-size', 'Shift p', 'Picture small, large, largest', (c) => c.look.pictureSize()],
  ['fit-tracks', 'Shift v', 'All tracks in sight, or each as wide as it wants', (c) => c.look.fit()],
  ['wide-track', 'Shift w', 'Room for the chosen track, or as the others', (c) => c.tracks.widen()],
  ['closer-picture', 'z', 'Picture closer: twice, four times, whole', (c) => c.look.closer()],
  ['overview', 'v', 'Overview of the reel on or off', (c) => c.look.overview()],
  ['picture-window', 'w', 'Picture in a window of its own', (c) => c.look.pictureWindow()],
  ['rides', 'i', 'Draw rides: level, pan, none', (c) => c.rides.show()],
  [
    'balance',
    'Shift b',
    'Balance: loudness and treatment of stems and the whole',
    (c) => c.look.pane('balance'),
  ],
  [
    'hear-earlier',
    'Alt p',
    'Hear the earlier balance laid beside, as loud; again, the present one',
    (c) => void c.balance.toggleCompared(),
  ],
  ['stacks', 'Shift g', 'Stacks: plans and their variations', (c) => c.look.pane('stacks')],
  ['pane', '', 'Pane at the right on or off', (c) => c.look.pane('sounds')],
  ['notes', 'Shift n', 'Notes and questions of the reel', (c) => c.look.pane('notes')],
  ['history', 'Shift h', 'History of the reel', (c) => c.look.pane('history')],
  ['palette', 'Ctrl k', 'Find any of these by its name', (c) => c.look.palette()],
  ['keys', '?', 'All keys', (c) => c.look.keys()],
]

/** Actions that belong together in the list of keys. */
export interface ActionGroup {
  readonly title: string
  readonly actions: readonly Action<Commands>[]
  /** What must be so for them to do something: a sound is selected, rides are drawn; null for always. */
  readonly needs: 'sound' | 'rides' | null
}

const group = (
  title: string,
  lines: readonly Line<Commands>[],
  needs: ActionGroup['needs'] = null,
): ActionGroup => ({ title, actions: readTable(lines), needs })

/** Everything that the Sheet does by key, in the order in which it is listed. */
export const SHEET_GROUPS: readonly ActionGroup[] = [
  group('Moving', MOVING),
  group('Spotting', SPOTTING),
  group('Finding and trying', FINDING),
  group('Placing', PLACING, 'sound'),
  group('Shaping', SHAPING, 'sound'),
  group('Selecting', SELECTING),
  group('Swapping', SWAPPING, 'sound'),
  group('Laying and tracks', LAYING),
  group('Performing', PERFORMING),
  group('Scratch voices', VOICES),
  group('Record', RECORDING),
  group('Rides', RIDING, 'rides'),
  group('Looking', LOOKING),
  { title: 'Changing one’s mind', actions: REEL_ACTIONS, needs: null },
]

/** What the page of the Sheet listens to; undo and redo are listened to on every page of a reel. */
export const SHEET_ACTIONS = SHEET_GROUPS.flatMap(({ actions }) => actions).filter(
  (action) => !REEL_ACTIONS.includes(action),
)

/** The same by their names. */
export const SHEET_BY_ID: ReadonlyMap<string, Action<Commands>> = new Map(
  SHEET_GROUPS.flatMap(({ actions }) => actions).map((action) => [action.id, action]),
)
