import type { KeptFinding } from '../contract/kept.js'
import type { Recipe } from '../contract/recipes.js'
import type { Measured } from '../contract/turnover.js'
import { currentCut, rateOf, reelOf, type ReelDocument } from '../reel/document.js'
import { formatTimecode } from '../time/timecode.js'
import { checkTitle } from './checks/findAll.js'

/** An audio file as the report tells of it. */
export interface ReportedAudio {
  readonly title: string
  readonly name: string
  /** LUFS, LU, dBTP, dBFS. */
  readonly integrated: number
  readonly range: number
  readonly truePeak: number
  readonly peak: number
  readonly overs: number
}

/** A recording in use as the report tells of it. */
export interface ReportedSound {
  readonly name: string
  readonly path: string
  readonly licence: string
  readonly source: string
  /** How many times it is placed. */
  readonly uses: number
}

/** What a report is made of, beside the reel. */
export interface ReportFacts {
  readonly name: string
  readonly by: string
  /** ISO 8601. */
  readonly at: string
  readonly recipe: Recipe
  readonly findings: readonly KeptFinding[]
  readonly measured: Measured | null
  readonly audio: readonly ReportedAudio[]
  readonly sounds: readonly ReportedSound[]
  readonly remarks: readonly string[]
}

/** A part of a report: lines, or a table whose first row is its heading and whose columns have parts of the width. */
export interface ReportSection {
  readonly title: string
  readonly lines: readonly string[]
  readonly table: { readonly widths: readonly number[]; readonly rows: readonly (readonly string[])[] } | null
}

/** What each kind of list can't carry; a reader of one has to know. */
export const NOT_CARRIED = [
  [
    'EDL',
    'Positions are whole frames; the samples, gain, fades, kept pitch, sides, channels, runs and ways past stand in comments. No level rides, treatment, cues.',
  ],
  [
    'OTIO',
    'Sample-accurate. Gain, fades that are no crossfade, rides, pan, runs and ways past stand in metadata under “yodel”. No treatment, stacks.',
  ],
  [
    'ADL',
    'Sample-accurate, with fades, gain and level rides. Speed, direction, sides, channels, runs and ways past are remarks; no pan rides, treatment, cues.',
  ],
  [
    'Clips CSV',
    'Positions, gain, fades, speed. No kept pitch, sides, channels, runs, ways past, rides, treatment, fade shapes.',
  ],
  ['Mix cue sheet', 'What is heard, to the frame. No treatment, no rides.'],
] as const

/** What holds for all sounds, and who wonders has to know. */
const TO_KNOW = [
  'A mono sound in the middle lies 3.01 dB down on each side.',
  'Sync points that Yodel found in recordings at another rate than 48 kHz can be up to 96 samples (2 ms) early; those set by hand are exact.',
] as const

/** The sections of a turnover's report, in the order in which they are printed. */
export function reportSections(doc: ReelDocument, facts: ReportFacts): ReportSection[] {
  const open = facts.findings.filter(({ accepted }) => accepted === null)
  const accepted = facts.findings.filter((finding) => finding.accepted !== null)
  return [
    { title: facts.name, lines: headLines(doc, facts), table: null },
    ...audioSection(facts),
    {
      title: open.length === 0 ? 'Nothing was left open' : `Left open: ${open.length}`,
      lines: [],
      table: open.length === 0 ? null : findingTable(doc, open, false),
    },
    ...(accepted.length === 0
      ? []
      : [{ title: `Accepted: ${accepted.length}`, lines: [], table: findingTable(doc, accepted, true) }]),
    { title: 'To know', lines: [...facts.remarks, ...TO_KNOW], table: null },
    {
      title: 'What the lists can’t carry',
      lines: [],
      table: { widths: [0.16, 0.84], rows: [['List', 'What is left out'], ...NOT_CARRIED] },
    },
    ...(facts.sounds.length === 0 ? [] : [soundSection(facts.sounds)]),
  ]
}

function headLines(doc: ReelDocument, { by, at, recipe }: ReportFacts): string[] {
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const cut = currentCut(doc)
  const from = recipe.from === 'programme' ? reel.programme : 0
  const [first, last] = [from, reel.length].map((frame) => formatTimecode(reel.firstFrame + frame, rate))
  const { tracks, stems, whole } = recipe.treatment
  const treated = [tracks && 'tracks', stems && 'stems', whole && 'the whole'].filter(Boolean).join(', ')
  return [
    [reel.show, reel.name, reel.company].filter(Boolean).join(', '),
    `${rate.label}, ${first} to ${last}${cut ? `, picture ${cut.name}` : ', without picture'}`,
    `${doc.cue.size} cues, ${doc.clip.size} sounds on ${doc.track.size} tracks`,
    `Recipe “${recipe.name}”; treatment in the audio: ${treated || 'none'}`,
    `Made by ${by}, ${at.slice(0, 16).replace('T', ' ')} UTC`,
  ]
}

const db = (value: number): string => (value <= -70 ? 'silent' : value.toFixed(1))

function audioSection({ audio, measured, recipe }: ReportFacts): ReportSection[] {
  if (audio.length === 0) return []
  const rows = audio.map(({ title, name, integrated, range, truePeak, peak, overs }) => [
    ...[title, `${name}.wav`, db(integrated), range.toFixed(1), db(truePeak), db(peak)],
    overs === 0 ? '' : String(overs),
  ])
  const residual = measured?.residual ?? null
  const lines = [
    '48 kHz, 24 bit, Broadcast WAV, each with the timecode of its first sample.',
    ...(recipe.twoPop && recipe.from === 'leader'
      ? ['A 2-pop is in each file, two seconds before the programme; it is not measured.']
      : []),
    ...(residual === null ? [] : [residualLine(residual)]),
    ...(recipe.mix && recipe.stems && recipe.treatment.whole
      ? [
          'The stems are taken before the treatment of the whole: their sum is not the mix where the whole is treated.',
        ]
      : []),
  ]
  const heading = ['What', 'File', 'LUFS', 'LU', 'dBTP', 'dBFS', 'Held']
  return [
    {
      title: 'Audio',
      lines,
      table: { widths: [0.22, 0.42, 0.08, 0.06, 0.08, 0.08, 0.06], rows: [heading, ...rows] },
    },
  ]
}

const residualLine = (residual: number): string =>
  residual <= -199
    ? 'The sum of the stems is the mix, to the last bit.'
    : `The sum of the stems differs from the mix by ${residual.toFixed(1)} dBFS at the most.`

function findingTable(doc: ReelDocument, findings: readonly KeptFinding[], withReason: boolean) {
  const rate = rateOf(doc)
  const { firstFrame } = reelOf(doc)
  const rows = findings.map(({ check, at, text, accepted }) => [
    at ? formatTimecode(firstFrame + Math.max(0, at.from), rate) : '',
    checkTitle(check),
    text,
    ...(withReason ? [accepted ? `${accepted.reason} (${accepted.by})` : ''] : []),
  ])
  return withReason
    ? { widths: [0.13, 0.22, 0.37, 0.28], rows: [['At', 'Check', 'What', 'Accepted because'], ...rows] }
    : { widths: [0.13, 0.25, 0.62], rows: [['At', 'Check', 'What'], ...rows] }
}

function soundSection(sounds: readonly ReportedSound[]): ReportSection {
  const rows = sounds.map(({ name, licence, source, uses }) => [
    name,
    String(uses),
    licence || 'not known',
    source,
  ])
  const heading = ['Recording', 'Placed', 'Licence', 'Source']
  return {
    title: `Recordings in use: ${sounds.length}`,
    lines: [],
    table: { widths: [0.36, 0.08, 0.24, 0.32], rows: [heading, ...rows] },
  }
}
