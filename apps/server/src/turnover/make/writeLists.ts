import { writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  adlText,
  clipsCsv,
  clipsEdl,
  cueListCsv,
  edlFiles,
  LISTS,
  MOST_EVENTS,
  nameByRule,
  otioText,
  recordsOf,
  reelOf,
  SAMPLE_RATE,
  uniqueNames,
  WHOLE_LIST,
  writeCsv,
  type Clip,
  type FileOf,
  type ListKind,
  type ReelDocument,
  type ReportFacts,
  type SourceFile,
} from '@yodel/core'
import { timeReferenceOf } from '../../media/timeReference.js'
import { runApart } from '../../processes/apart.js'
import type { Stand } from '../../reels/reelStore.js'
import { soundsByIds, soundPlaces } from '../../sounds/soundRows.js'
import type { MadeAudio } from '../audio/makeAudio.js'
import type { PaperOrder } from '../paper/writePaper.js'
import type { TurnoverDeps, Written } from './makeTurnover.js'
import type { PackedSounds } from './packSounds.js'

/** How long paper may take, and what is said of it when it takes longer. */
export const PAPER_LIMITS = { seconds: 120, what: 'Paper of so many cues' }

/** Writes paper in a process of its own. */
export async function writePaper(order: PaperOrder): Promise<Buffer> {
  return Buffer.from(await runApart<Uint8Array>('turnover/paper/writePaper', order, PAPER_LIMITS))
}

/** What the lists of a turnover tell beside the reel. */
export interface ListFacts extends Omit<ReportFacts, 'audio' | 'sounds'> {
  readonly packed: PackedSounds
  readonly files: readonly MadeAudio[]
}

/** Writes the lists that a recipe wants, the list of licences and the report into a turnover's folder. */
export async function writeLists(
  deps: Pick<TurnoverDeps, 'db'>,
  { doc }: Stand,
  facts: ListFacts,
  folder: string,
): Promise<{ written: Written[]; remarks: string[] }> {
  const { recipe } = facts
  const reel = reelOf(doc)
  const sources = await gatherSources(deps.db, doc, facts.packed)
  const date = facts.at.slice(0, 10)
  const rule = { ...reel, nameRule: recipe.nameRule || reel.nameRule }
  const lists = await Promise.all(
    recipe.lists.map((kind) => contentsOf(kind, doc, sources.fileOf, facts, date)),
  )
  const all = lists.flat()
  const names = uniqueNames(all.map(({ what, ending }) => `${nameByRule(rule, what, date)}.${ending}`))
  const written: Written[] = []
  for (const [index, { title, content }] of all.entries()) {
    const inside = `lists/${names[index] as string}`
    await writeFile(path.join(folder, inside), content)
    written.push({ path: inside, kind: 'list', title })
  }
  const remarks = [...facts.packed.remarks, ...manyEvents(doc, recipe.lists)]
  const sounds = sources.reported
  const audio = facts.files.map(({ title, name, measures }) => ({ title, name, ...measures }))
  const { packed: _, files: __, ...told } = facts
  const report = { ...told, sounds, audio, remarks: [...facts.remarks, ...remarks] }
  const pdf = await writePaper({ records: recordsOf(doc), kind: 'report', facts: report })
  await writeFile(path.join(folder, 'report.pdf'), pdf)
  await writeFile(path.join(folder, 'licences.csv'), licencesCsv(sounds))
  return {
    written: [
      { path: 'report.pdf', kind: 'report', title: 'Report' },
      { path: 'licences.csv', kind: 'report', title: 'Licences' },
      ...written,
    ],
    remarks,
  }
}

interface ListContent {
  readonly title: string
  /** What it is, for the name of its file. */
  readonly what: string
  readonly ending: string
  readonly content: string | Buffer
}

async function contentsOf(
  kind: ListKind,
  doc: ReelDocument,
  fileOf: FileOf,
  facts: ListFacts,
  date: string,
): Promise<ListContent[]> {
  const { title, ending } = LISTS[kind]
  const records = recordsOf(doc)
  const { paper } = facts.recipe
  const one = (what: string, content: string | Buffer): ListContent[] => [{ title, what, ending, content }]
  switch (kind) {
    case 'cuesPdf':
      return one(
        'cues',
        await writePaper({ records, kind: 'pdf', options: { date, thumbnails: null, group: null } }),
      )
    case 'cuesXlsx':
      return one('cues', await writePaper({ records, kind: 'xlsx', as: WHOLE_LIST }))
    case 'cuesCsv':
      return one('cues', cueListCsv(doc))
    case 'mixPdf':
      return one('mix cue sheet', await writePaper({ records, kind: 'mix', options: { paper, date } }))
    case 'edl':
      return [
        ...one('all tracks', clipsEdl(doc, fileOf)),
        ...edlFiles(doc, fileOf).map(({ category, track, part, parts, text }) => ({
          title: `${title}: ${track?.name ?? category}${parts > 1 ? `, ${part} of ${parts}` : ''}`,
          what: `${category}${track ? ` ${track.name}` : ''}${parts > 1 ? ` ${part}` : ''}`,
          ...{ ending, content: text },
        })),
      ]
    case 'otio':
      return one('tracks', otioText(doc, fileOf))
    case 'adl':
      return one('tracks', adlText(doc, fileOf, { date: facts.at, uid: `${reelOf(doc).id}-${facts.at}` }))
    case 'clipsCsv':
      return one('clips', clipsCsv(doc, fileOf))
  }
}

function manyEvents(doc: ReelDocument, lists: readonly ListKind[]): string[] {
  return lists.includes('edl') && doc.clip.size > MOST_EVENTS
    ? [
        `The EDL of all tracks has more than ${MOST_EVENTS} events; those of a category or a track have no more than that each.`,
      ]
    : []
}

const licencesCsv = (sounds: ReportFacts['sounds']): string =>
  writeCsv([
    ['Recording', 'File', 'Licence', 'Source', 'Times placed'],
    ...sounds.map(({ name, path: file, licence, source, uses }) => [
      name,
      file,
      licence,
      source,
      String(uses),
    ]),
  ])

/** Finds the files that clips play, as lists name them, and tells of the recordings in use. */
async function gatherSources(
  db: TurnoverDeps['db'],
  doc: ReelDocument,
  { parts, sounds, files }: PackedSounds,
): Promise<{ fileOf: FileOf; reported: ReportFacts['sounds'] }> {
  const clips = [...doc.clip.values()]
  const ids = [...new Set(clips.map(({ soundId }) => soundId))]
  const known = new Map((await soundsByIds(db, ids)).map((sound) => [sound.id, sound]))
  const own = new Map<string, SourceFile>()
  for (const place of await soundPlaces(db, ids)) {
    const sound = known.get(place.id)
    const file = path.join(place.root, place.path)
    const timeReference = await timeReferenceOf(file, sound?.sampleRate ?? SAMPLE_RATE)
    const length = sound?.length ?? 0
    own.set(place.id, { path: path.basename(place.path), timeReference, from: 0, length, sha256: '' })
  }
  const packedFiles = new Map<string, SourceFile>()
  for (const [index, { soundId, part, clips: some }] of parts.entries()) {
    const whole = own.get(soundId)
    const packed: SourceFile = {
      // Lists lie in a folder of their own beside that of the sounds.
      ...{ path: `../${sounds[index]?.path ?? ''}`, sha256: files[index]?.sha256 ?? '' },
      ...(part
        ? { timeReference: 0, from: part.from, length: part.to - part.from }
        : { timeReference: whole?.timeReference ?? 0, from: 0, length: whole?.length ?? 0 }),
    }
    for (const clip of some) packedFiles.set(clip, packed)
  }
  const missing = (clip: Clip): SourceFile => ({
    ...{ path: clip.name, timeReference: 0, from: 0, length: clip.recorded, sha256: '' },
  })
  const uses = new Map<string, number>()
  for (const { soundId } of clips) uses.set(soundId, (uses.get(soundId) ?? 0) + 1)
  return {
    fileOf: (clip) => packedFiles.get(clip.id) ?? own.get(clip.soundId) ?? missing(clip),
    reported: ids.map((id) => {
      const { name = 'not on any shelf', licence = '', source = '' } = known.get(id) ?? {}
      return { name, licence, source, path: own.get(id)?.path ?? '', uses: uses.get(id) ?? 0 }
    }),
  }
}
