import { samplesIn, EMPTY_PLAN, foldedRoom, PCM_CHUNK, type RenderPlan, type Room } from '@yodel/core'
import { MixMeters } from './MixMeters.js'
import type { FeedMessage, FromFeeder, HeardMessage, Start, ToFeeder } from './messages.js'
import { chunksWithin, fetchPcm } from './pcm.js'
import { planAfter } from './planNews.js'

// Fetches decoded sound ahead of time and hands it to the audio thread, so that neither a busy page
// nor a long recording can make a gap: what sounds within the horizon is there, the rest is not kept.

const HORIZON = samplesIn(6)
const BEHIND = samplesIn(2)
/** How much must be there before playing starts; the rest follows while it plays. */
const FIRST = samplesIn(1)
const EVERY_MS = 150
const AT_ONCE = 6

let worklet: MessagePort | null = null
let plan: RenderPlan = EMPTY_PLAN
let playing: Start | null = null
let at = 0
const prepared = new Map<string, { mediaId: string; from: number; to: number }>()
const sent = new Map<string, { mediaId: string; index: number }>()
const loading = new Map<string, Promise<void>>()
const broken = new Map<string, number>()
const rooms = new Set<Room>()
const meters = new MixMeters((levels) => self.postMessage({ type: 'levels', levels } satisfies FromFeeder))

const keyOf = (mediaId: string, index: number): string => `${mediaId}#${index}`
const tell = (message: FeedMessage, transfer: Transferable[] = []): void =>
  worklet?.postMessage(message, transfer)

self.onmessage = ({ data }: MessageEvent<ToFeeder>) => {
  switch (data.type) {
    case 'worklet':
      worklet = data.port
      worklet.onmessage = ({ data: heard }: MessageEvent<HeardMessage>) =>
        meters.take(heard.part, heard.samples)
      return void sendRooms()
    case 'plan':
      plan = planAfter(plan, data.news)
      sendRooms()
      return void fill()
    case 'start':
      playing = data
      at = data.from
      meters.reset()
      return void start(data)
    case 'loop':
      playing = playing && { ...playing, loop: data.loop }
      return void fill()
    case 'stop':
      playing = null
      return
    case 'at':
      at = data.sample
      return
    case 'prepare':
      prepared.set(data.mediaId, data)
      if (prepared.size > 4) prepared.delete(prepared.keys().next().value as string)
      return void fill()
  }
}

setInterval(() => void fill(), EVERY_MS)

/** Makes the rooms that the plan's reverbs are set to; the audio thread has no time for it. */
function sendRooms(): void {
  if (!worklet) return
  const inserts = [
    ...plan.strips.flatMap((strip) => strip.inserts),
    ...Object.values(plan.stems).flat(),
    ...plan.whole,
  ]
  for (const insert of inserts) {
    if (insert.effect !== 'reverb' || rooms.has(insert.room)) continue
    rooms.add(insert.room)
    tell({ type: 'room', room: insert.room, folded: foldedRoom(insert.room) })
  }
}

async function start(wanted: Start): Promise<void> {
  await Promise.all(
    chunksWithin(plan, wanted.from, wanted.from + FIRST).map(({ mediaId, index }) => load(mediaId, index)),
  )
  if (playing?.token === wanted.token) tell({ type: 'go', token: wanted.token })
  void fill()
}

async function fill(): Promise<void> {
  if (!worklet) return
  const loop = playing?.loop ?? null
  const ahead = chunksWithin(plan, Math.max(0, at - 4800), at + HORIZON)
  const again = loop ? chunksWithin(plan, loop.from, Math.min(loop.to, loop.from + HORIZON)) : []
  const ready = [...prepared.values()].flatMap(({ mediaId, from, to }) =>
    Array.from({ length: Math.floor((to - 1) / PCM_CHUNK) - Math.floor(from / PCM_CHUNK) + 1 }, (_, i) => ({
      mediaId,
      index: Math.floor(from / PCM_CHUNK) + i,
    })),
  )
  const needed = [...ahead, ...again, ...ready]
  forgetAllBut(
    new Set(
      [...needed, ...chunksWithin(plan, Math.max(0, at - BEHIND), at)].map(({ mediaId, index }) =>
        keyOf(mediaId, index),
      ),
    ),
  )
  for (const { mediaId, index } of needed) {
    if (loading.size >= AT_ONCE) return
    void load(mediaId, index)
  }
}

function forgetAllBut(keep: ReadonlySet<string>): void {
  for (const [key, { mediaId, index }] of sent) {
    if (keep.has(key)) continue
    sent.delete(key)
    tell({ type: 'forget', mediaId, index })
  }
}

async function load(mediaId: string, index: number): Promise<void> {
  const key = keyOf(mediaId, index)
  if (sent.has(key) || (broken.get(mediaId) ?? 0) > Date.now()) return
  const running = loading.get(key) ?? fetchChunk(mediaId, index, key).finally(() => loading.delete(key))
  loading.set(key, running)
  await running
}

async function fetchChunk(mediaId: string, index: number, key: string): Promise<void> {
  try {
    const channels = await fetchPcm(mediaId, index)
    sent.set(key, { mediaId, index })
    tell(
      { type: 'chunk', mediaId, index, channels },
      channels.map((channel) => channel.buffer),
    )
  } catch (error) {
    // A sound that can't be had must not be asked for a hundred times a second, nor keep the others waiting.
    broken.set(mediaId, Date.now() + 3000)
    const message =
      error instanceof TypeError
        ? 'The server does not answer, so sounds that are not loaded yet stay silent.'
        : error instanceof Error
          ? error.message
          : String(error)
    self.postMessage({ type: 'trouble', mediaId, message } satisfies FromFeeder)
  }
}
