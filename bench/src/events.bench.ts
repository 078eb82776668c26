// How well recordings are split into their events: the demo's rows and beds, whose events are known from how they are made.
import { Listener } from '@yodel/core'
import { catalogue } from '@yodel/demo'
import { report } from './report.js'

const WITHIN_S = 0.01
const LONG_S = 3

let found = 0
let truth = 0
let met = 0
for (const recording of catalogue()) {
  const { channels, onsets } = recording.make(48_000)
  const length = channels[0]?.length ?? 0
  // Rows of many, and beds, which are one event from end to end; single sounds of several parts are a matter of taste, and so is a train that passes.
  if (!onsets) continue
  const bed = onsets.length === 0
  if (length < LONG_S * 48_000 || (onsets.length < 3 && !bed)) continue
  const listener = new Listener(channels.length === 1 ? 1 : 2)
  listener.push(interleaved(channels))
  const events = listener.finish().events.map(([, sync]) => sync / 48_000)
  const expected = bed ? [0] : onsets
  const hits = expected.filter((onset) => events.some((event) => Math.abs(event - onset) <= WITHIN_S)).length
  found += events.length
  truth += expected.length
  met += Math.min(hits, events.length)
  if (process.env['YODEL_BENCH_SAY'])
    console.error(recording.name, 'found', events.length, 'known', expected.length, 'met', hits)
}
report({ name: 'events.recall', value: (100 * met) / truth, unit: '%' })
report({ name: 'events.precision', value: (100 * met) / found, unit: '%' })

function interleaved(channels: readonly Float32Array[]): Float32Array {
  const length = channels[0]?.length ?? 0
  const out = new Float32Array(length * channels.length)
  for (const [index, channel] of channels.entries())
    for (let i = 0; i < length; i++) out[i * channels.length + index] = channel[i] as number
  return out
}
