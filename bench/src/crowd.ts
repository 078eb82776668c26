import { execFileSync } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import {
  frames,
  addTrack,
  apply,
  CATEGORIES,
  clipAtSample,
  documentOf,
  expectOk,
  frameToSample,
  FRAME_RATES,
  recordsOf,
  spotCue,
  type Clip,
  type Cue,
  type ReelDocument,
  type ReelRecord,
  type ReelState,
  type Sound,
} from '@yodel/core'
import type { Page } from 'playwright-core'
import type { RealServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith } from './movies.js'

const CUES = 2000
const TRACKS = 30
const CLIPS = 5000
/** Length of the crowded reel in frames: twenty minutes. */
const LENGTH = 20 * 60 * 24
const SOUNDS = 12
const rate = FRAME_RATES['24']

/** Writes a dozen noises of one to four seconds into `shelf` below a folder. */
export function makeNoises(folder: string): void {
  const shelf = path.join(folder, 'shelf')
  mkdirSync(shelf)
  for (let sound = 0; sound < SOUNDS; sound++) {
    const noise = `anoisesrc=duration=${1 + (sound % 4)}:seed=${sound}:amplitude=0.4,afade=t=out:d=1`
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      noise,
      '-ar',
      '48000',
      path.join(shelf, `sound ${sound}.wav`),
    ])
  }
}

/** A reel of twenty minutes at 24 fps with nothing on it. */
export function emptyReel(): ReelDocument {
  const place = { firstFrame: frames(86_400), programme: frames(0), length: frames(LENGTH), pictureId: null }
  return documentOf([
    { kind: 'reel', id: 'r', show: 'Crowd', name: 'Reel 1', rate: '24', ...place, company: '', nameRule: '' },
  ])
}

/** Records that fill a reel: 2,000 cues all over it, 5,000 sounds one after the other on its tracks. */
export function crowded(
  doc: ReelDocument,
  sounds: readonly Pick<Sound, 'id' | 'name' | 'length'>[],
  tracks = TRACKS,
): ReelRecord[] {
  const before = new Set(recordsOf(doc).map((record) => record.id))
  let full = doc
  for (let track = 0; track < tracks; track++)
    full = expectOk(
      apply(full, expectOk(addTrack(full, { id: `t${track}`, category: CATEGORIES[track % 6] ?? 'FX' }))),
    )
  const cue = expectOk(spotCue(doc, { id: 'x', category: 'FX', in: 0, out: 12 })).added[0] as Cue
  const cues = Array.from({ length: CUES }, (_, index): Cue => {
    const at = Math.floor((index * (LENGTH - 100)) / CUES)
    return {
      ...cue,
      id: `q${index}`,
      category: CATEGORIES[index % 6] ?? 'FX',
      number: 1 + Math.floor(index / 6),
      in: frames(at),
      out: frames(at + 10 + (index % 50)),
      sync: frames(at),
      words: `Cue ${index}, heard somewhere in the crowd`,
      state: index % 3 ? 'open' : 'ready',
    }
  })
  const each = Math.ceil(CLIPS / tracks)
  const room = frameToSample(frames(Math.floor((LENGTH - 200) / each)), rate)
  const clips = Array.from({ length: CLIPS }, (_, index): Clip => {
    const sound = sounds[index % sounds.length] as Sound
    const frame = Math.floor(((index % each) * (LENGTH - 200)) / each)
    const part = { to: Math.min(sound.length, room, 150_000), gain: -6, fadeIn: 96, fadeOut: 9600 }
    return clipAtSample({
      id: `c${index}`,
      trackId: `t${Math.floor(index / each)}`,
      cueId: `q${index % CUES}`,
      at: frameToSample(frames(frame), rate),
      sound: { id: sound.id, name: sound.name, recorded: sound.length, sync: 0, ...part },
    })
  })
  return [...recordsOf(full).filter((record) => !before.has(record.id)), ...cues, ...clips]
}

/** Opens a crowded reel of its own in a page. @returns Its id. */
export async function openCrowd(
  server: RealServer,
  page: Page,
  folder: string,
  tracks = TRACKS,
): Promise<string> {
  const post = async (url: string, body: object): Promise<Response> =>
    fetch(server.url + url, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  await post('/api/shelves', { path: path.join(folder, 'shelf') })
  let sounds: Sound[] = []
  while (sounds.length < SOUNDS) {
    await new Promise((resolve) => setTimeout(resolve, 300))
    sounds = ((await (await fetch(`${server.url}/api/sounds`)).json()) as { sounds: Sound[] }).sounds
  }
  await openReelWith(server, page, '24', await numberedMovie(folder, '24', 20))
  const id = page.url().split('/').at(-1) ?? ''
  const state = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
  const reel = state.records.find((record) => record.kind === 'reel') as ReelRecord
  const change = {
    label: 'Crowd',
    added: crowded(documentOf(state.records), sounds, tracks),
    updated: [[reel, { ...reel, length: LENGTH }]],
    removed: [],
  }
  const answer = await post(`/api/reels/${id}/changes`, {
    changeId: crypto.randomUUID(),
    base: state.seq,
    role: 'do',
    target: null,
    change,
  })
  if (!answer.ok) throw new Error(`the crowd was not taken: ${await answer.text()}`)
  return id
}
