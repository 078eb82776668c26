import { CATEGORIES, CATEGORY_NAMES } from '@yodel/core'
import type { Commands } from '../commands/commands.js'
import { readTable, type Line } from './action.js'
import { RATINGS } from './resultActions.js'

/** Undo and redo: on every page of a reel. */
export const REEL_ACTIONS = readTable<Commands>([
  ['Ctrl z', 'Undo', (c) => c.undo()],
  ['Ctrl Shift z', 'Redo', (c) => c.redo()],
  ['Ctrl y', 'Redo', (c) => c.redo()],
])

const MOVING: readonly Line<Commands>[] = [
  ['Space', 'Play or stop', (c) => c.move.toggle()],
  ['j', 'Slower; stopped, back two seconds', (c) => c.move.slower()],
  ['k', 'Stop', (c) => c.move.stop()],
  ['l', 'Play; rolling, faster', (c) => c.move.faster()],
  ['b', 'Back three seconds, rolling on', (c) => c.move.back()],
  ['ArrowDown', 'One frame on; while trying, the next candidate', (c) => c.doing.step(1)],
  ['ArrowUp', 'One frame back; while trying, the candidate before', (c) => c.doing.step(-1)],
  ['Shift ArrowDown', 'One second on', (c) => c.move.stepSeconds(1)],
  ['Shift ArrowUp', 'One second back', (c) => c.move.stepSeconds(-1)],
  ['PageDown', 'Next cue', (c) => c.move.nextCue()],
  ['PageUp', 'Previous cue', (c) => c.move.previousCue()],
  ['Alt PageDown', 'Next finding of the turnover', (c) => c.findings.next(1)],
  ['Alt PageUp', 'Previous finding', (c) => c.findings.next(-1)],
  ['Home', 'First frame', (c) => c.move.first()],
  ['End', 'Last frame', (c) => c.move.last()],
  ['.', 'Type a time to go to', (c) => c.look.typeTime()],
  ['o', 'Next onset of the guide', (c) => c.move.onset(1)],
  ['Shift o', 'Previous onset', (c) => c.move.onset(-1)],
  ['c', 'Next cut of the picture', (c) => c.move.cut(1)],
  ['Shift c', 'Previous cut', (c) => c.move.cut(-1)],
  ['f', 'Gate to the nearest onset or cut', (c) => c.move.snap()],
]

const SPOTTING: readonly Line<Commands>[] = [
  ...CATEGORIES.map((category, index): Line<Commands> => [
    String(index + 1),
    `Drop a cue: ${category}, ${CATEGORY_NAMES[category].toLowerCase()}`,
    // The cue is there while the key is still down; its words are typed and its end is known at release.
    (c) => {
      const id = c.spot.drop(category)
      if (id !== null) return () => c.spot.release(id)
    },
  ]),
  ['r', 'Drop the last cue again here, with its words', (c) => c.spot.again()],
  ['Enter', 'Edit the words; while trying, keep', (c) => c.doing.enter()],
  ['Escape', 'Leave; while trying, put back', (c) => c.doing.leave()],
  ['[', 'Cue or sound begins at the gate', (c) => c.spot.setIn()],
  [']', 'Cue or sound ends at the gate', (c) => c.spot.setOut()],
  ['\\', 'Sync point of the cue or sound at the gate', (c) => c.spot.setSync()],
  ['n', 'Note or question on the cue, or at the gate', (c) => c.spot.note()],
]

const FINDING: readonly Line<Commands>[] = [
  ['/', 'Search sounds; ↓ ↑ listen, Enter tries', (c) => c.look.search()],
  [
    'Alt ArrowRight',
    'Sounds: next event of the chosen recording (→ in the list)',
    (c) => c.look.results()?.stepEvent(1),
  ],
  ['Alt ArrowLeft', 'Sounds: previous event (← in the list)', (c) => c.look.results()?.stepEvent(-1)],
  ['Alt k', 'Sounds: put the chosen one into the current kit', (c) => c.look.results()?.fillKit()],
  ['Alt r', 'Sounds: any one of the results', (c) => c.look.results()?.shuffle()],
  ...RATINGS.map((rating): Line<Commands> => [
    `Alt ${rating}`,
    `Sounds: rate the chosen one ${rating}`,
    (c) => c.look.results()?.rate(rating),
  ]),
  ['t', 'Try the chosen sound on the cue', (c) => c.tries.here()],
  ['Shift Enter', 'While trying: hold this layer, try another beside it', (c) => c.tries.hold()],
  ['Shift t', 'Try the next of the cue’s shortlist', (c) => c.shortlist.tryNext()],
  ['Shift l', 'Put the chosen sound on the cue’s shortlist', (c) => c.shortlist.add()],
]

const PLACING: readonly Line<Commands>[] = [
  ['Alt ArrowDown', 'Move the sound a frame later', (c) => c.gate.nudgeFrames(1)],
  ['Alt ArrowUp', 'Move the sound a frame earlier', (c) => c.gate.nudgeFrames(-1)],
  ['Alt Shift ArrowDown', 'A tenth of a frame later', (c) => c.gate.nudgeTenths(1)],
  ['Alt Shift ArrowUp', 'A tenth of a frame earlier', (c) => c.gate.nudgeTenths(-1)],
  ['Ctrl ArrowDown', 'Move the sound inside its clip a frame later', (c) => c.gate.slipFrames(1)],
  ['Ctrl ArrowUp', 'Move the sound inside its clip a frame earlier', (c) => c.gate.slipFrames(-1)],
  ['Ctrl Shift ArrowDown', 'Boundary with the sound that follows a frame later', (c) => c.gate.rollFrames(1)],
  [
    'Ctrl Shift ArrowUp',
    'Boundary with the sound that follows a frame earlier',
    (c) => c.gate.rollFrames(-1),
  ],
  ['Alt Shift ArrowRight', 'Move the sounds to the track on the right', (c) => c.gate.moveAcross(1)],
  ['Alt Shift ArrowLeft', 'Move the sounds to the track on the left', (c) => c.gate.moveAcross(-1)],
  ['Alt [', 'Fade the sound in up to the gate', (c) => c.gate.fadeInToGate()],
  ['Alt ]', 'Fade the sound out from the gate', (c) => c.gate.fadeOutFromGate()],
]

const SHAPING: readonly Line<Commands>[] = [
  ['m', 'Mute the sound', (c) => c.shape.mute()],
  ['s', 'Solo the sound’s track', (c) => c.tracks.solo()],
  ['Delete', 'Delete what is selected', (c) => c.shape.remove()],
  ['x', 'Split the sound at the gate', (c) => c.shape.split()],
  ['d', 'Duplicate the sounds behind themselves', (c) => c.shape.duplicate()],
  ['e', 'Repeat the sound to the end of its cue, or to the gate', (c) => c.shape.repeat()],
  ['q', 'Crossfade the selected sounds', (c) => c.shape.crossfade()],
  ['y', 'Reverse the sound', (c) => c.shape.reverse()],
  ['Shift y', 'Swap left and right of the sound', (c) => c.shape.swapSides()],
  ['Ctrl c', 'Copy the sounds', (c) => c.shape.copy()],
  ['Ctrl x', 'Cut the sounds out', (c) => c.shape.cut()],
  ['Ctrl v', 'Lay what was copied at the gate', (c) => c.shape.paste()],
  ['Ctrl g', 'Group the sounds', (c) => c.shape.group()],
  ['Ctrl Shift g', 'Ungroup', (c) => c.shape.ungroup()],
  ['u', 'Lock or unlock the sounds', (c) => c.shape.toggleLock()],
  ['Alt +', 'Sound 1 dB louder', (c) => c.shape.gainBy(1)],
  ['Alt -', 'Sound 1 dB softer', (c) => c.shape.gainBy(-1)],
  ['Alt Shift -', 'Each of the selected sounds 3 dB softer than the one before', (c) => c.shape.stepGain(-3)],
]

const SELECTING: readonly Line<Commands>[] = [
  ['Ctrl a', 'Select all sounds', (c) => c.select.all()],
  ['a', 'Select all sounds after the gate', (c) => c.select.afterGate()],
  ['Shift a', 'Select the sounds of the same recording', (c) => c.select.like('sound')],
  ['Alt a', 'Select the sounds of the same category', (c) => c.select.like('category')],
  ['Alt Shift a', 'Select the sounds of the same track', (c) => c.select.like('track')],
]

const SWAPPING: readonly Line<Commands>[] = [
  ['Alt t', 'Swap the selected sounds for the chosen one', (c) => c.swap.forChosen()],
  ['Alt e', 'Swap for the next event of the same recording', (c) => void c.swap.forEvent(1)],
  ['Alt Shift e', 'Swap for the event before', (c) => void c.swap.forEvent(-1)],
  ['Alt w', 'Swap for another like it, lighter', (c) => void c.swap.forAlike('lighter')],
  ['Alt Shift w', 'Swap for another like it, heavier', (c) => void c.swap.forAlike('heavier')],
  ['Alt l', 'Swap for the next of the cue’s shortlist', (c) => void c.swap.forShortlisted()],
  ['Alt h', 'Lay the next event of the chosen recording at the gate', (c) => void c.events.layNext()],
  ['h', 'Lay the events of the chosen recording on the cue and the next ones', (c) => void c.events.lay()],
  ['Alt s', 'Solo only the sound’s track', (c) => c.tracks.soloOnly()],
  ['Alt Delete', 'Remove tracks that hold nothing', (c) => c.tracks.removeEmpty()],
]

const RIDING: readonly Line<Commands>[] = [
  ['i', 'Draw rides: level, pan, none', (c) => c.rides.show()],
  ['Shift r', 'Ride the track live while playing, or end it', (c) => c.rides.live()],
  ['ArrowLeft', 'Riding live: softer, or to the left', (c) => void c.rides.by(-1)],
  ['ArrowRight', 'Riding live: louder, or to the right', (c) => void c.rides.by(1)],
  ['Shift i', 'Pan follows clicks on the picture', (c) => c.rides.follow()],
  ['Shift b', 'Balance: loudness and treatment of stems and the whole', (c) => c.look.balance()],
  [
    'Alt b',
    'Hear the earlier balance laid beside, as loud; again, the present one',
    (c) => void c.balance.toggleCompared(),
  ],
]

const LOOKING: readonly Line<Commands>[] = [
  ['+', 'Closer', (c) => c.move.zoomBy(1.25)],
  ['-', 'Farther', (c) => c.move.zoomBy(0.8)],
  ['g', 'Guide on or off', (c) => c.look.guide()],
  ['p', 'Picture strip on or off', (c) => c.look.strip()],
  ['Shift p', 'Picture small, large, largest', (c) => c.look.pictureSize()],
  ['Shift v', 'All tracks in sight, or each as wide as it wants', (c) => c.look.fit()],
  ['v', 'Overview of the reel on or off', (c) => c.look.overview()],
  ['w', 'Picture in a window of its own', (c) => c.look.pictureWindow()],
  ['Shift h', 'History of the reel', (c) => c.look.history()],
  ['Ctrl k', 'Find any of these by its name', (c) => c.look.palette()],
  ['?', 'All keys', (c) => c.look.keys()],
]

/** Everything that the Sheet does by key, in the order in which it is listed. */
export const SHEET_ACTIONS = readTable<Commands>([
  ...[...MOVING, ...SPOTTING, ...FINDING, ...PLACING, ...SHAPING, ...SELECTING, ...SWAPPING, ...RIDING],
  ...LOOKING,
])
