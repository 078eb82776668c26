/** One caption: times in seconds from the beginning of the file's own clock. */
export interface Caption {
  readonly from: number
  readonly to: number
  /** Line of the file on which its times stand. */
  readonly line: number
  /** Who speaks, from a voice tag or a leading name; empty when not said. */
  readonly speaker: string
  readonly words: string
}

/** Captions of a file, and the lines that could not be read. */
export interface Captions {
  readonly captions: readonly Caption[]
  readonly problems: readonly { readonly line: number; readonly message: string }[]
}

const TIMES =
  /^(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{1,3})\s+-->\s+(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{1,3})(?:\s|$)/

/** Marks of style: tags of WebVTT and SRT by their names, times inside of words, and `{\\an8}`; `3 < 4 and 5 > 2` is none. */
const STYLES = /<\/?(?:b|i|u|s|c|v|em|font|lang|rt|ruby|strong)(?:[.\s][^<>]*)?>|<[\d:.]+>|\{\\[^}]*\}/gi

/**
 * Reads WebVTT (W3C WebVTT, section 4) and SRT, which differ in head, decimal mark and numbering only.
 * Headers, notes, styles and numbers are passed over; tags are taken out of the words, a `<v Name>` names the speaker.
 */
export function readCaptions(text: string): Captions {
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\r|\n/)
  const captions: Caption[] = []
  const problems: { line: number; message: string }[] = []
  for (let at = 0; at < lines.length; at++) {
    const line = lines[at] as string
    if (!line.includes('-->')) continue
    const match = TIMES.exec(line.trim())
    const from = match ? seconds(match.slice(1, 5)) : NaN
    const to = match ? seconds(match.slice(5, 9)) : NaN
    if (!(to > from)) {
      problems.push({
        line: at + 1,
        message: match
          ? 'the caption ends before it begins'
          : `"${line.trim().slice(0, 60)}" is no pair of caption times`,
      })
      continue
    }
    const own = at + 1
    const said: string[] = []
    while (at + 1 < lines.length && (lines[at + 1] as string).trim() !== '') said.push(lines[++at] as string)
    const whole = said.join(' ')
    const voice = /<v(?:\.[^\s>]*)?\s+([^>]+)>/.exec(whole)
    const words = unescape(whole.replace(STYLES, '')).replace(/\s+/g, ' ').trim()
    if (words !== '') captions.push({ from, to, line: own, speaker: voice?.[1]?.trim() ?? '', words })
  }
  return { captions, problems }
}

function seconds(fields: readonly (string | undefined)[]): number {
  const [hours = '0', minutes, secs, fraction] = fields
  return (
    Number(hours) * 3600 +
    Number(minutes) * 60 +
    Number(secs) +
    Number(fraction) / 10 ** (fraction?.length ?? 0)
  )
}

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ amp: '&', lt: '<', gt: '>', nbsp: ' ', lrm: '', rlm: '', quot: '"', apos: "'" },
  ...{ hellip: '…', ndash: '–', mdash: '—', lsquo: '‘', rsquo: '’', ldquo: '“', rdquo: '”' },
}
const unescape = (text: string): string =>
  text.replace(
    /&(?:#(\d{1,7})|#x([0-9a-f]{1,6})|(\w+));/gi,
    (whole, decimal?: string, hex?: string, name?: string) => {
      if (name !== undefined) return ENTITIES[name.toLowerCase()] ?? whole
      const point = decimal === undefined ? Number.parseInt(hex ?? '', 16) : Number(decimal)
      return point > 31 && point <= 0x10_ffff ? String.fromCodePoint(point) : ''
    },
  )
