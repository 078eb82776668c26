import type { FrameRate } from '../time/rates.js'
import { parseTimecode } from '../time/timecode.js'

/** An event of an EDL; times are frames since 00:00:00:00, record span `[recordIn, recordOut)`. */
export interface EdlEvent {
  readonly line: number
  readonly number: string
  /** Name of the source's reel; `BL` is black, or silence. */
  readonly reel: string
  readonly channel: string
  /** The track that a comment of ours named before it; empty where there was none. */
  readonly track: string
  readonly transition: 'cut' | 'dissolve' | 'wipe' | 'key'
  /** Frames that the transition takes. */
  readonly over: number
  readonly sourceIn: number
  readonly sourceOut: number
  readonly recordIn: number
  readonly recordOut: number
  /** From a `FROM CLIP NAME` or, after a dissolve, a `TO CLIP NAME` comment; else the source reel. */
  readonly name: string
  /** Frames of the source that pass in one of the record; negative backwards. From an `M2` line, else 1. */
  readonly speed: number
  /** Its comments that are neither names nor markers. */
  readonly comments: readonly string[]
}

/** A comment that names a timecode: a marker. */
export interface EdlMarker {
  readonly line: number
  readonly frame: number
  readonly words: string
  /** In lower case; empty where it has none. */
  readonly colour: string
}

/** What an EDL holds, and the lines that could not be read. */
export interface Edl {
  readonly title: string
  /** Whether it says that it counts in drop-frame; null where it says nothing. */
  readonly drop: boolean | null
  readonly events: readonly EdlEvent[]
  readonly markers: readonly EdlMarker[]
  readonly problems: readonly { readonly line: number; readonly message: string }[]
}

const TC = '(\\d{1,2}[:;]\\d{1,2}[:;]\\d{1,2}[:;.]\\d{1,2})'
const EVENT = new RegExp(
  `^(\\d{1,6})\\s+(\\S+)\\s+(\\S+)\\s+(\\S+)(?:\\s+(\\d{1,3}))?\\s+${TC}\\s+${TC}\\s+${TC}\\s+${TC}`,
)
const MARKER = new RegExp(`^\\*\\s*(?:[\\w ]{1,20}:)?\\s*${TC}\\s*(.*)$`)
const NAMED_MARKER = /^\*\s*(LOC|LOCATOR|MARK|MARKER)\b/i
const COLOUR = /^(red|green|blue|cyan|magenta|yellow|black|white|purple|orange|pink)\b\s*/i
const NAME = /^\*\s*(FROM|TO) CLIP NAME:\s*(.+)$/i
const TRACK = /^\*\s*TRACK \d+:\s*(.+)$/
const MOTION = /^M2\s+\S+\s+(-?\d+(?:\.\d+)?)/
const TRANSITIONS: Readonly<Record<string, EdlEvent['transition']>> = { D: 'dissolve', W: 'wipe', K: 'key' }

/** Reads an EDL in the CMX 3600 layout: events with what is said of them, and comments with a timecode as markers. */
export function readEdl(text: string, rate: FrameRate): Edl {
  const reader = new EdlReader(rate)
  for (const [index, line] of text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\r|\n/)
    .entries())
    reader.take(line.trim(), index + 1)
  return reader.edl()
}

class EdlReader {
  private title = ''
  private drop: boolean | null = null
  private readonly events: EdlEvent[] = []
  private readonly markers: EdlMarker[] = []
  private readonly bareMarkers: EdlMarker[] = []
  private readonly problems: { line: number; message: string }[] = []
  private track = ''
  /** Whether what follows speaks of the last event: not when that line could not be read. */
  private speaksOfLast = false

  constructor(private readonly rate: FrameRate) {}

  take(found: string, line: number): void {
    if (/^TITLE:/i.test(found)) this.title = found.slice(6).trim()
    else if (/^FCM:/i.test(found)) this.drop = !/NON/i.test(found)
    else if (found.startsWith('*')) this.comment(found, line)
    else if (MOTION.test(found)) this.motion(Number((MOTION.exec(found) as RegExpExecArray)[1]))
    else if (EVENT.test(found)) this.event(EVENT.exec(found) as RegExpExecArray, line)
    else if (/^\d{3,6}\s/.test(found)) {
      this.problems.push({ line, message: `"${found.slice(0, 60)}" is no event` })
      this.speaksOfLast = false
    }
  }

  edl(): Edl {
    const { title, drop, events, problems } = this
    // A time in some comment is a marker only where there is nothing else.
    const markers = events.length > 0 ? this.markers : [...this.markers, ...this.bareMarkers]
    return { title, drop, events, problems, markers: markers.toSorted((a, b) => a.line - b.line) }
  }

  private event(match: RegExpExecArray, line: number): void {
    const times = this.times(match.slice(6, 10), line)
    this.speaksOfLast = times !== null
    if (!times) return
    const [sourceIn, sourceOut, recordIn, recordOut] = times as [number, number, number, number]
    const [number, reel, channel, kind] = match.slice(1, 5) as [string, string, string, string]
    this.events.push({
      ...{ line, number, reel, channel, track: this.track, name: reel, speed: 1, comments: [] },
      ...{ transition: TRANSITIONS[kind[0]?.toUpperCase() ?? ''] ?? 'cut', over: Number(match[5] ?? 0) },
      ...{ sourceIn, sourceOut, recordIn, recordOut },
    })
  }

  private comment(found: string, line: number): void {
    const track = TRACK.exec(found)
    if (track) return void (this.track = track[1] as string)
    const [, side, name] = NAME.exec(found) ?? []
    if (side !== undefined && name !== undefined) {
      // Of a dissolve's two lines, the first is what goes and the second what comes.
      const outgoing = side.toUpperCase() === 'FROM' && this.events.at(-1)?.transition !== 'cut'
      return this.change(outgoing ? -2 : -1, { name })
    }
    const [, time, rest = ''] = MARKER.exec(found) ?? []
    if (time === undefined) {
      const comments = [...(this.events.at(-1)?.comments ?? []), found.replace(/^\*\s*/, '')]
      return this.change(-1, { comments })
    }
    const frame = this.times([time], line)?.[0]
    if (frame === undefined) return
    const named = NAMED_MARKER.test(found)
    const colour = named ? (COLOUR.exec(rest)?.[1]?.toLowerCase() ?? '') : ''
    const words = (colour === '' ? rest : rest.replace(COLOUR, '')).trim()
    ;(named ? this.markers : this.bareMarkers).push({ line, frame, words, colour })
  }

  private motion(fps: number): void {
    this.change(-1, { speed: (fps * this.rate.den) / this.rate.num })
  }

  /** Says something of the last event, or of the one before it where both are lines of one number. */
  private change(which: -1 | -2, fields: Partial<EdlEvent>): void {
    const last = this.events.at(-1)
    const index = this.events.length + which
    const event = this.events[index]
    if (!this.speaksOfLast || !event || event.number !== last?.number) return
    this.events[index] = { ...event, ...fields }
  }

  private times(texts: readonly string[], line: number): number[] | null {
    const frames: number[] = []
    for (const text of texts) {
      const read = parseTimecode(text.replace(/[;.]/g, ':'), this.rate)
      if (!read.ok) {
        this.problems.push({ line, message: read.message })
        return null
      }
      frames.push(read.frame)
    }
    return frames
  }
}
