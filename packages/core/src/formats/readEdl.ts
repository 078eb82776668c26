import type { FrameRate } from '../time/rates.js'
import { parseTimecode } from '../time/timecode.js'

/** An event of an EDL; times are frames since 00:00:00:00, record span `[recordIn, recordOut)`. */
export interface EdlEvent {
  readonly line: number
  readonly number: string
  readonly channel: string
  readonly sourceIn: number
  readonly sourceOut: number
  readonly recordIn: number
  readonly recordOut: number
  /** From a `FROM CLIP NAME` comment, else the source reel. */
  readonly name: string
}

/** A comment that names a timecode: a marker. */
export interface EdlMarker {
  readonly line: number
  readonly frame: number
  readonly words: string
}

/** What an EDL holds, and the lines that could not be read. */
export interface Edl {
  readonly title: string
  readonly events: readonly EdlEvent[]
  readonly markers: readonly EdlMarker[]
  readonly problems: readonly { readonly line: number; readonly message: string }[]
}

const TC = '(\\d{1,2}[:;]\\d{1,2}[:;]\\d{1,2}[:;.]\\d{1,2})'
const EVENT = new RegExp(
  `^(\\d{1,6})\\s+(\\S+)\\s+(\\S+)\\s+(\\S+(?:\\s+\\d{1,3})?)\\s+${TC}\\s+${TC}\\s+${TC}\\s+${TC}`,
)
const MARKER = new RegExp(`^\\*\\s*(?:[\\w ]{1,20}:)?\\s*${TC}\\s*(.*)$`)

/** Reads an EDL in the CMX 3600 layout: events with their clip names, and comments with a timecode as markers. */
export function readEdl(text: string, rate: FrameRate): Edl {
  const events: EdlEvent[] = []
  const markers: EdlMarker[] = []
  const problems: { line: number; message: string }[] = []
  let title = ''
  text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\r|\n/)
    .forEach((raw, index) => {
      const line = index + 1
      const found = raw.trim()
      const times = (texts: readonly string[]): number[] | null => {
        const read = texts.map((one) => parseTimecode(one.replace(/[;.]/g, ':'), rate))
        const wrong = read.find((one) => !one.ok)
        if (wrong && !wrong.ok) problems.push({ line, message: wrong.message })
        return wrong ? null : read.map((one) => (one.ok ? one.frame : 0))
      }
      if (/^TITLE:/i.test(found)) title = found.slice(6).trim()
      const name = /^\*\s*FROM CLIP NAME:\s*(.+)$/i.exec(found)
      const last = events.at(-1)
      if (name && last) events[events.length - 1] = { ...last, name: name[1] as string }
      const marker = name ? null : MARKER.exec(found)
      if (marker) {
        const frame = times([marker[1] as string])?.[0]
        if (frame !== undefined) markers.push({ line, frame, words: (marker[2] as string).trim() })
      }
      const event = EVENT.exec(found)
      if (!event) {
        if (/^\d{3,6}\s/.test(found)) problems.push({ line, message: `"${found.slice(0, 60)}" is no event` })
        return
      }
      const read = times(event.slice(5, 9))
      if (!read) return
      const [sourceIn, sourceOut, recordIn, recordOut] = read as [number, number, number, number]
      events.push({
        line,
        number: event[1] as string,
        channel: event[3] as string,
        sourceIn,
        sourceOut,
        recordIn,
        recordOut,
        name: event[2] as string,
      })
    })
  return { title, events, markers, problems }
}
