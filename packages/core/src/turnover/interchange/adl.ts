import { rateOf, rideOf, reelOf, type ReelDocument } from '../../reel/document.js'
import type { Clip, FadeShape, Track } from '../../reel/records.js'
import { frameToSample, sampleToFrame } from '../../time/convert.js'
import type { FrameRate } from '../../time/rates.js'
import { formatTimecode } from '../../time/timecode.js'
import { frames, SAMPLE_RATE } from '../../time/units.js'

import { dbFromGain, fadeGain } from '../../signal/levels.js'
import { playedWords } from '../playedWords.js'
import { listTitle, placedTracks, sourceStart, type FileOf, type SourceFile } from './placed.js'

/**
 * A time as an ADL writes it: timecode, a slash, and the samples since that frame's first.
 * Separators tell the counting: `.` 25 a second, `|` 24, `:` 30 and others, `;` drop-frame (AES31-3, from memory).
 */
export function adlTime(sample: number, rate: FrameRate, firstFrame = 0): string {
  const frame = sampleToFrame(sample, rate)
  const rest = sample - frameToSample(frames(frame), rate)
  const separator = rate.dropped > 0 ? ';' : rate.nominal === 25 ? '.' : rate.nominal === 24 ? '|' : ':'
  const timecode = formatTimecode(firstFrame + frame, rate).replace(/[:;]/g, separator)
  return `${timecode}/${String(rest).padStart(4, '0')}`
}

const quoted = (text: string): string => `"${text.replace(/["\r\n\t]/g, ' ')}"`

/**
 * Writes a reel as an Audio Decision List of level 1 with its rides (AES31-3, from memory): positions to the sample, fades with their
 * shape, gain, an index of files with their checksums. Muted clips are left out.
 */
export function adlText(doc: ReelDocument, fileOf: FileOf, made: { date: string; uid: string }): string {
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const placed = placedTracks(doc)
  const sources = new Map<string, { number: number; file: SourceFile; name: string }>()
  for (const { clips } of placed)
    for (const clip of clips) {
      const file = fileOf(clip)
      if (!sources.has(file.path)) sources.set(file.path, { number: sources.size + 1, file, name: clip.name })
    }
  const zero = adlTime(0, rate)
  const lines = [
    '<ADL>',
    '<VERSION>',
    '(ADL_ID)\t"06,64,43,52,01,01,04,00,02,03,04,05"',
    `(ADL_UID)\t${quoted(made.uid)}`,
    ...['(VER_ADL_VERSION)\t01.01', '(VER_CREATOR)\t"Yodel"', '(VER_CRTR_VERSION)\t"1"', '</VERSION>'],
    ...['<PROJECT>', `(PROJ_TITLE)\t${quoted(listTitle(doc))}`, `(PROJ_ORIGINATOR)\t${quoted(reel.company)}`],
    ...[`(PROJ_CREATE_DATE)\t${made.date}`, '(PROJ_NOTES)\t""', '</PROJECT>'],
    ...['<SYSTEM>', `(SYS_SRC_OFFSET)\t${zero}`, '(SYS_BIT_DEPTH)\t24', '(SYS_AUDIO_CODEC)\t"NONE"'],
    ...[`(SYS_XFADE_LENGTH)\t${zero}`, '(SYS_GAIN)\t0', '</SYSTEM>'],
    ...['<SEQUENCE>', `(SEQ_SAMPLE_RATE)\tS${SAMPLE_RATE}`, `(SEQ_FRAME_RATE)\t${rate.num / rate.den}`],
    ...['(SEQ_ADL_LEVEL)\t1', '(SEQ_CLEAN)\tFALSE', '(SEQ_SORT)\t0', '(SEQ_MULTICHAN)\tFALSE'],
    ...[`(SEQ_DEST_START)\t${adlTime(0, rate, reel.firstFrame)}`, '</SEQUENCE>'],
    '<TRACKLIST>',
    ...placed.map(({ track }, index) => `(Track)\t${index + 1}\t${quoted(track.name)}`),
    ...['</TRACKLIST>', '<SOURCE_INDEX>'],
    ...[...sources.values()].map(
      ({ number, file, name }) =>
        `(Index)\t${four(number)}\t(F)\t${quoted(`URL:file://localhost/${encodeURI(file.path)}`)}\t${quoted(file.sha256)}` +
        `\t${adlTime(file.timeReference, rate)}\t${adlTime(file.length, rate)}\t${quoted(name)}\tN`,
    ),
    ...['</SOURCE_INDEX>', '<EVENT_LIST>'],
  ]
  let entry = 0
  for (const [index, { clips }] of placed.entries())
    for (const clip of clips.filter(({ mute }) => !mute)) {
      const file = fileOf(clip)
      const source = sources.get(file.path)
      entry++
      lines.push(
        ...entryLines(clip, { entry, index, file, number: source?.number ?? 0 }, rate, reel.firstFrame),
      )
    }
  lines.push('</EVENT_LIST>', '<FADER_LIST>')
  for (const [index, { track }] of placed.entries())
    lines.push(...faderLines(doc, track, index, rate, reel.firstFrame))
  return `${[...lines, '</FADER_LIST>', '</ADL>'].join('\r\n')}\r\n`
}

const four = (number: number): string => String(number).padStart(4, '0')

function entryLines(
  clip: Clip,
  { entry, index, file, number }: { entry: number; index: number; file: SourceFile; number: number },
  rate: FrameRate,
  firstFrame: number,
): string[] {
  const channels = `${2 * index + 1}~${2 * index + 2}`
  const from = file.timeReference + sourceStart(clip, file)
  const [begin, end] = [clip.start, clip.start + clip.length].map((sample) =>
    adlTime(sample, rate, firstFrame),
  )
  const remarks = playedWords(clip)
  return [
    `(Entry)\t${four(entry)}\t(Cut)\tI\t${four(number)}\t1~2\t${channels}\t${adlTime(from, rate)}\t${begin}\t${end}\tR`,
    ...fadeLine('Infade', clip.fadeIn, clip.fadeInShape, rate),
    ...fadeLine('Outfade', clip.fadeOut, clip.fadeOutShape, rate),
    ...(clip.gain === 0 ? [] : [`\t(Gain)\t_\t_\t${clip.gain.toFixed(2)}`]),
    `\t(Rem)\tNAME\t${quoted(clip.name)}`,
    ...(remarks.length > 0 ? [`\t(Rem)\t${quoted(remarks.join(', '))}`] : []),
  ]
}

/** A fade: straight, or a curve told by its level a quarter, half and three quarters of the way from silence, in dB. */
function fadeLine(kind: 'Infade' | 'Outfade', length: number, shape: FadeShape, rate: FrameRate): string[] {
  if (length === 0) return []
  const levels = [0.25, 0.5, 0.75].map((part) => dbFromGain(fadeGain(shape, part)).toFixed(2))
  const curve = shape === 'linear' ? 'LIN\t_\t_\t_' : `CURVE\t${levels.join('\t')}`
  return [`\t(${kind})\t${adlTime(length, rate)}\t${curve}`]
}

function faderLines(
  doc: ReelDocument,
  track: Track,
  index: number,
  rate: FrameRate,
  firstFrame: number,
): string[] {
  const points = rideOf(doc, track.id, 'level')
  const channel = 2 * index + 1
  const at = (sample: number, level: number): string =>
    `(FP)\t${channel}~${channel + 1}\t${adlTime(sample, rate, firstFrame)}\t${level.toFixed(2)}`
  if (points.length === 0) return track.level === 0 ? [] : [at(0, track.level)]
  return points.map((point) => at(point.at, track.level + point.value))
}
