import {
  CATEGORY_NAMES,
  formatLength,
  formatTimecode,
  FRAME_RATES,
  reelOf,
  STATE_NAMES,
  type Cue,
  type Face,
  type ReelDocument,
} from '@yodel/core'

/** A column of the spotting sheet on paper; its width in points. */
export interface Column {
  readonly title: string
  readonly width: number
  readonly font: Face
  readonly text: (cue: Cue) => string
  /** A second, smaller text below. */
  readonly below?: (cue: Cue) => string
}

/** The columns, over a width in points: what is heard has what the others leave. */
export function columnsOf(doc: ReelDocument, width: number): Column[] {
  const reel = reelOf(doc)
  const rate = FRAME_RATES[reel.rate]
  const tc = (frame: number): string => formatTimecode(reel.firstFrame + frame, rate)
  const joined = (...parts: string[]): string => parts.filter((part) => part !== '').join(', ')
  const columns: Column[] = [
    {
      title: 'Cue',
      width: 62,
      font: 'bold',
      text: (cue) => `${cue.category} ${String(cue.number).padStart(3, '0')}`,
      below: (cue) => CATEGORY_NAMES[cue.category],
    },
    {
      title: 'In',
      width: 74,
      font: 'figures',
      text: (cue) => tc(cue.in),
      below: (cue) => (cue.sync === cue.in ? '' : `sync ${tc(cue.sync)}`),
    },
    {
      title: 'Out',
      width: 74,
      font: 'figures',
      text: (cue) => tc(cue.out),
      below: (cue) => formatLength(cue.out - cue.in, rate),
    },
    {
      title: 'What is heard',
      width: 0,
      font: 'plain',
      text: (cue) => cue.words,
      below: (cue) => (cue.state === 'omitted' && cue.omitReason ? `Omitted: ${cue.omitReason}` : cue.notes),
    },
    {
      title: 'Made by, where',
      width: 130,
      font: 'plain',
      text: (cue) => joined(cue.source, cue.where),
      below: (cue) =>
        joined(
          cue.scene && `scene ${cue.scene}`,
          cue.onScreen === 'unsaid' ? '' : `${cue.onScreen} screen`,
          cue.perspective === 'unsaid' ? '' : cue.perspective,
        ),
    },
    { title: 'Who', width: 76, font: 'plain', text: (cue) => cue.by },
    {
      title: 'State',
      width: 54,
      font: 'plain',
      text: (cue) => STATE_NAMES[cue.state],
      below: (cue) => (cue.priority > 0 ? '!'.repeat(cue.priority) : ''),
    },
  ]
  const fixed = columns.reduce((sum, column) => sum + column.width, 0)
  return columns.map((column) => (column.width === 0 ? { ...column, width: width - fixed } : column))
}
