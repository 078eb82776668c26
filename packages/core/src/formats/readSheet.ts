import Papa from 'papaparse'
import { ok, refuse, type Result } from '../errors.js'
import type { Reel } from '../reel/records.js'
import type { SheetFileTable } from '../spotting/sheetIn/head.js'
import type { ImportProblem } from '../spotting/sheetIn/previewImport.js'
import { FRAME_RATES, type FrameRate } from '../time/rates.js'
import { formatTimecode, frameToParts } from '../time/timecode.js'
import { readCaptions } from './captions.js'
import { readEdl } from './readEdl.js'
import type { WavMarkers } from './wavMarkers.js'

/** A file read as a sheet, its headings among its rows, with what was lost on the way. */
export interface ReadSheet extends SheetFileTable {
  readonly problems: readonly ImportProblem[]
}

type ReelTimes = Pick<Reel, 'rate' | 'firstFrame' | 'programme'>

/** A first line by which spreadsheets say how the cells of the file are parted. */
const SAID_SEPARATOR = /^sep=(.)\r?\n/i

/** Reads CSV or TSV (RFC 4180); the separator is found out, or said by a first line `sep=;`. */
export function readDelimited(text: string): Result<ReadSheet> {
  const plain = text.replace(/^\ufeff/, '')
  const said = SAID_SEPARATOR.exec(plain)
  const body = said ? plain.slice(said[0].length) : plain
  const parsed = Papa.parse<string[]>(body, {
    ...{ skipEmptyLines: false, delimiter: said?.[1] ?? separatorOf(body) },
  })
  const first = said ? 2 : 1
  const filled = parsed.data
    .map((cells, index) => ({ cells, line: index + first }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  if (filled.length < 2)
    return refuse('CORE_BAD_SHEET', 'Import', 'it needs a line of headings and at least one line below')
  const unclosed = parsed.errors.find(({ code }) => code === 'MissingQuotes')
  if (unclosed)
    return refuse(
      'CORE_BAD_SHEET',
      'Import',
      `a quotation mark that is opened in line ${(unclosed.row ?? 0) + first} is never closed, so that it would swallow all that follows. Close it there and bring the file in again`,
    )
  const problems = parsed.errors
    .filter((error) => error.type === 'Quotes')
    .map((error): ImportProblem => ({
      line: (error.row ?? 0) + first,
      severity: 'error',
      message: 'a quotation mark stands in the middle of a cell',
    }))
  return ok({ rows: filled.map(({ cells }) => cells), lines: filled.map(({ line }) => line), problems })
}

/** Lines that are looked at for the separator: titles may stand before the headings. */
const LOOKED_AT = 10

/** The separator that stands most often in one of the first lines, outside of quotation marks. */
function separatorOf(text: string): string {
  const head = text
    .trimStart()
    .split(/\r\n|\r|\n/)
    .slice(0, LOOKED_AT)
    .map((line) => line.replace(/"[^"]*"/g, ''))
  const count = (mark: string): number => Math.max(...head.map((line) => line.split(mark).length))
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
  // The clock at the reel's first frame: captions that count from midnight agree with the reel there, at 23.976, too.
  const { hours, minutes, seconds: secs } = frameToParts(reel.firstFrame, rate)
  const firstClock = hours * 3600 + minutes * 60 + secs
  const absolute = firstClock > 0 && (captions[0]?.from ?? 0) >= firstClock - 1
  const [origin, base] = absolute ? [firstClock, 0] : [0, reel.programme]
  const tc = (seconds: number): string =>
    formatTimecode(reel.firstFrame + base + Math.round(((seconds - origin) * rate.num) / rate.den), rate)
  return ok({
    rows: [
      ['Category', 'In', 'Out', 'What is heard', 'Made by'],
      ...captions.map((caption) => [
        'DX',
        tc(caption.from),
        tc(Math.max(caption.to, caption.from + rate.den / rate.num)),
        caption.words,
        caption.speaker,
      ]),
    ],
    lines: [0, ...captions.map(({ line }) => line)],
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
      rows: [
        headings,
        ...edl.markers.map(({ frame, words, colour }) => [
          ...[tc(frame), '', words],
          colour === '' ? '' : `${colour} marker`,
        ]),
      ],
      lines: [0, ...edl.markers.map((marker) => marker.line)],
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
    rows: [
      headings,
      ...events.map(({ recordIn, recordOut, name, speed }) => [
        ...[tc(recordIn), tc(recordOut), name],
        speed === 1 ? '' : `speed ${speed}`,
      ]),
    ],
    lines: [0, ...events.map((event) => event.line)],
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
    rows: [
      ['In', 'Out', 'What is heard'],
      ...wav.markers.map((marker) => [
        tc(marker.sample),
        marker.length > 0
          ? tc(marker.sample + Math.max(marker.length, (wav.sampleRate * rate.den) / rate.num))
          : '',
        marker.words,
      ]),
    ],
    lines: [0, ...wav.markers.map((_, index) => index + 1)],
    problems: [],
  })
}
