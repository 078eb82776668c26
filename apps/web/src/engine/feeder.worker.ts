import { Feeder } from './Feeder.js'
import { MixMeters } from './MixMeters.js'
import type { FromFeeder, HeardMessage, ToFeeder } from './messages.js'
import { fetchPcm } from './pcm.js'

// The worker beside the audio thread: feeds it, and measures the loudness of what it hands back.

const EVERY_MS = 150

let worklet: MessagePort | null = null
const toPage = (message: FromFeeder): void => self.postMessage(message)
const meters = new MixMeters((levels) => toPage({ type: 'levels', levels }))
const feeder = new Feeder({
  fetchChunk: fetchPcm,
  toWorklet: (message, transfer = []) => worklet?.postMessage(message, transfer),
  toPage,
  now: () => Date.now(),
})

self.onmessage = ({ data }: MessageEvent<ToFeeder>) => {
  if (data.type !== 'worklet') {
    if (data.type === 'start') meters.reset()
    return feeder.take(data)
  }
  worklet = data.port
  worklet.onmessage = ({ data: heard }: MessageEvent<HeardMessage>) => meters.take(heard.part, heard.samples)
  feeder.connect()
}

setInterval(() => feeder.fill(), EVERY_MS)
