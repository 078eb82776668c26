import Papa from 'papaparse'
import { ok, refuse, type Result } from '../errors.js'
import type { Reel } from '../reel/records.js'
import type { ImportProblem, SheetTable } from '../spotting/importSheet.js'
import { FRAME_RATES, type FrameRate } from '../time/rates.js'
import { formatTimecode } from '../time/timecode.js'
import { readCaptions } from './captions.js'
import { readEdl } from './readEdl.js'
import type { WavMarkers } from './wavMarkers.js'

/** A file read as a sheet, with what was lost on the way. */
export interface ReadSheet extends SheetTable {
  readonly problems: readonly ImportProblem[]
}

type ReelTimes = Pick<Reel, 'rate' | 'firstFrame' | 'programme'>

/** Reads CSV or TSV (RFC 4180); the separator is found out. The first line that is not empty holds the headings. */
export function readDelimited(text: string): Result<ReadSheet> {
  const plain = text.replace(/^\ufeff/, '')
  const parsed = Papa.parse<string[]>(plain, { skipEmptyLines: false, delimiter: separatorOf(plain) })
  const filled = parsed.data
    .map((cells, index) => ({ cells, line: index + 1 }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  const [head, ...rows] = filled
  if (!head || rows.length === 0)
    return refuse('CORE_BAD_SHEET', 'Import', 'it needs a line of headings and at least one line below')
  const problems = parsed.errors
    .filter((error) => error.type === 'Quotes')
    .map((error): ImportProblem => ({
      line: (error.row ?? 0) + 1,
      severity: 'error',
      message: `a quotation mark is not closed or stands in the middle of a cell: ${error.message}`,
    }))
  return ok({
    headings: head.cells,
    rows: rows.map((row) => row.cells),
    lines: rows.map((row) => row.line),
    problems,
  })
}

/** The separator that stands most often in the headings, outside of quotation marks. */
function separatorOf(text: string): string {
  const head = (text.trimStart().split(/\r|\n/)[0] ?? '').replace(/"[^"]*"/g, '')
  const count = (mark: string): number => head.split(mark).length
  return [',', ';', '\t', '|'].reduce((best, mark) => (count(mark) > count(best) ? mark : best))
}

/**
 * Reads WebVTT or SRT as a sheet of dialogue cues. Captions that begin within an hour of the reel's start timecode count
 * from midnight, as timecode does; all others count from the first frame of the programme.
 */
export function readCaptionSheet(text: string, reel: ReelTimes): Result<ReadSheet> {
  const { captions, problems } = readCaptions(text)
  if (captions.length === 0) return refuse('CORE_BAD_SHEET', 'Import', 'no caption was found in it')
  const rate = FRAME_RATES[reel.rate]
  const firstSeconds = (reel.firstFrame * rate.den) / rate.num
  const absolute = firstSeconds > 0 && (captions[0]?.from ?? 0) >= firstSeconds - 1
  const tc = (seconds: number): string =>
    formatTimecode(
      (absolute ? 0 : reel.firstFrame + reel.programme) + Math.round((seconds * rate.num) / rate.den),
      rate,
    )
  return ok({
    headings: ['Category', 'In', 'Out', 'What is heard', 'Made by'],
    rows: captions.map((caption) => [
      'DX',
      tc(caption.from),
      tc(Math.max(caption.to, caption.from + rate.den / rate.num)),
      caption.words,
      caption.speaker,
    ]),
    lines: captions.map((_, index) => index + 1),
    problems: problems.map((problem) => ({ ...problem, severity: 'error' })),
  })
}

/** Reads an EDL as a sheet: its markers, or, when it has none, its events; black is left out. */
export function readEdlSheet(text: string, rate: FrameRate): Result<ReadSheet> {
  const edl = readEdl(text, rate)
  const tc = (frame: number): string => formatTimecode(frame, rate)
  const problems = edl.problems.map((problem): ImportProblem => ({ ...problem, severity: 'error' }))
  if (edl.drop !== null && edl.drop !== rate.dropped > 0)
    problems.unshift({
      ...{ line: 1, severity: 'warning' },
      message: `It says that it counts ${edl.drop ? 'drop-frame' : 'non-drop-frame'} and was read at ${rate.label}.`,
    })
  const headings = ['In', 'Out', 'What is heard', 'Notes']
  if (edl.markers.length > 0)
    return ok({
      headings,
      rows: edl.markers.map(({ frame, words, colour }) => [
        ...[tc(frame), '', words],
        colour === '' ? '' : `${colour} marker`,
      ]),
      lines: edl.markers.map((marker) => marker.line),
      problems,
    })
  const events = edl.events.filter(({ reel, recordIn, recordOut }) => reel !== 'BL' && recordOut > recordIn)
  const left = edl.events.length - events.length
  if (left > 0)
    problems.push({
      ...{ line: 1, severity: 'warning' },
      message: `${left} ${left === 1 ? 'event' : 'events'} of black or without length left out.`,
    })
  if (events.length === 0)
    return refuse(
      'CORE_BAD_SHEET',
      'Import',
      edl.problems[0]
        ? `line ${edl.problems[0].line}: ${edl.problems[0].message}`
        : 'no event and no marker was found in it',
    )
  return ok({
    headings,
    rows: events.map(({ recordIn, recordOut, name, speed }) => [
      ...[tc(recordIn), tc(recordOut), name],
      speed === 1 ? '' : `speed ${speed}`,
    ]),
    lines: events.map((event) => event.line),
    problems,
  })
}

/** Markers of a WAV file as a sheet: at their timecode where the file has one, else counted from the programme's first frame. */
export function markerSheet(wav: WavMarkers, reel: ReelTimes): Result<ReadSheet> {
  if (wav.markers.length === 0) return refuse('CORE_BAD_SHEET', 'Import', 'the WAV file holds no markers')
  const rate = FRAME_RATES[reel.rate]
  const frames = (samples: number): number => Math.round((samples * rate.num) / (rate.den * wav.sampleRate))
  const base = wav.timeReference === null ? reel.firstFrame + reel.programme : frames(wav.timeReference)
  const tc = (sample: number): string => formatTimecode(base + frames(sample), rate)
  return ok({
    headings: ['In', 'Out', 'What is heard'],
    rows: wav.markers.map((marker) => [
      tc(marker.sample),
      marker.length > 0
        ? tc(marker.sample + Math.max(marker.length, (wav.sampleRate * rate.den) / rate.num))
        : '',
      marker.words,
    ]),
    lines: wav.markers.map((_, index) => index + 1),
    problems: [],
  })
}
