import { writeCsv } from '../../formats/csv.js'
import { rateOf, reelOf, syncPlace, type ReelDocument } from '../../reel/document.js'
import { frameOfSample } from '../../time/convert.js'
import { formatTimecode } from '../../time/timecode.js'
import { placedTracks, sourceStart, type FileOf } from './placed.js'

const HEADINGS = [
  ...[
    'Track',
    'Category',
    'Cue',
    'Sound',
    'File',
    'Start',
    'End',
    'Sync',
    'Start sample',
    'Length in samples',
  ],
  ...['First sample of the file', 'Gain dB', 'Fade in', 'Fade out', 'Speed', 'Backwards', 'Muted'],
]

/** Every placed sound as a line of CSV, track by track: timecodes to read, samples to reckon with. */
export function clipsCsv(doc: ReelDocument, fileOf: FileOf): string {
  const rate = rateOf(doc)
  const { firstFrame } = reelOf(doc)
  const timecode = (sample: number): string =>
    formatTimecode(firstFrame + Math.floor(frameOfSample(sample, rate)), rate)
  const lines = placedTracks(doc).flatMap(({ track, clips }) =>
    clips.map((clip) => {
      const file = fileOf(clip)
      const cue = clip.cueId === null ? undefined : doc.cue.get(clip.cueId)
      return [
        ...[track.name, track.category, cue ? `${cue.category} ${String(cue.number).padStart(3, '0')}` : ''],
        ...[clip.name, file.path, timecode(clip.start), timecode(clip.start + clip.length)],
        ...[timecode(Math.max(0, syncPlace(clip))), clip.start, clip.length, sourceStart(clip, file)],
        ...[
          clip.gain,
          clip.fadeIn,
          clip.fadeOut,
          clip.speed,
          clip.reverse ? 'yes' : '',
          clip.mute ? 'yes' : '',
        ],
      ].map(String)
    }),
  )
  return writeCsv([HEADINGS, ...lines])
}
