import type { FrameRate } from '../time/rates.js'
import { SAMPLE_RATE } from '../time/units.js'

/** What the `iXML` chunk of a file that goes out says. */
export interface IxmlFacts {
  readonly project: string
  readonly scene: string
  readonly note: string
  /** Name of each channel. */
  readonly tracks: readonly string[]
  readonly rate: FrameRate
  readonly bits: number
  /** Samples since midnight of the first sample. */
  readonly timeReference: number
}

const escape = (text: string): string =>
  text.replace(/[<>&]/g, (letter) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;' })[letter] ?? letter)

const tag = (name: string, ...content: (string | number)[]): string =>
  `<${name}>${content.join('')}</${name}>`

/** What a recording says of itself to shelves. */
export interface SoundFacts {
  readonly name: string
  readonly note: string
  /** Separated by commas. */
  readonly keywords: string
  readonly category: string
  readonly licence: string
}

/** The content of an `iXML` chunk that tells shelves what a recording is; what the specification has no name for stands in USER. */
export const soundIxml = ({ name, note, keywords, category, licence }: SoundFacts): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n${tag(
    'BWFXML',
    tag('IXML_VERSION', '2.0'),
    tag('NOTE', escape(note)),
    tag(
      'USER',
      tag('NAME', escape(name)),
      tag('KEYWORDS', escape(keywords)),
      tag('CATEGORY', escape(category)),
      tag('LICENCE', escape(licence)),
    ),
  )}\n`

/** The content of an `iXML` chunk (iXML specification 2.0: PROJECT, SCENE, SPEED, TRACK_LIST), as text. */
export function ixmlText({ project, scene, note, tracks, rate, bits, timeReference }: IxmlFacts): string {
  const fps = `${rate.num}/${rate.den}`
  const track = (name: string, index: number): string =>
    tag(
      'TRACK',
      ...[tag('CHANNEL_INDEX', index + 1), tag('INTERLEAVE_INDEX', index + 1), tag('NAME', escape(name))],
    )
  return `<?xml version="1.0" encoding="UTF-8"?>\n${tag(
    'BWFXML',
    tag('IXML_VERSION', '2.0'),
    tag('PROJECT', escape(project)),
    tag('SCENE', escape(scene)),
    tag('NOTE', escape(note)),
    tag(
      'SPEED',
      ...[tag('MASTER_SPEED', fps), tag('CURRENT_SPEED', fps), tag('TIMECODE_RATE', fps)],
      tag('TIMECODE_FLAG', rate.dropped > 0 ? 'DF' : 'NDF'),
      ...[tag('FILE_SAMPLE_RATE', SAMPLE_RATE), tag('AUDIO_BIT_DEPTH', bits)],
      ...[tag('DIGITIZER_SAMPLE_RATE', SAMPLE_RATE), tag('TIMESTAMP_SAMPLE_RATE', SAMPLE_RATE)],
      tag('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI', Math.floor(timeReference / 2 ** 32)),
      tag('TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO', timeReference % 2 ** 32),
    ),
    tag('TRACK_LIST', tag('TRACK_COUNT', tracks.length), ...tracks.map(track)),
  )}\n`
}
