// Loudness and true peak of every demo sound, against ffmpeg's ebur128 (ITU-R BS.1770 / EBU R 128) on the same samples.
import { spawnSync } from 'node:child_process'
import { Listener } from '@yodel/core'
import { catalogue } from '@yodel/demo'
import { report } from './report.js'

let worstLoudness = 0
let worstPeak = 0
let audio = 0
let spent = 0
for (const recording of catalogue()) {
  const { channels } = recording.make(48_000)
  const count = channels.length
  const length = channels[0]?.length ?? 0
  const samples = new Float32Array(length * count)
  let top = 0
  for (const channel of channels) for (const value of channel) top = Math.max(top, Math.abs(value))
  const gain = 10 ** (recording.peak / 20) / top
  for (const [index, channel] of channels.entries())
    for (let i = 0; i < length; i++) samples[i * count + index] = (channel[i] as number) * gain
  const begun = performance.now()
  const listener = new Listener(count === 1 ? 1 : 2)
  for (let at = 0; at < samples.length; at += 32_768 * count)
    listener.push(samples.subarray(at, at + 32_768 * count))
  const heard = listener.finish()
  spent += performance.now() - begun
  audio += length / 48_000
  const filter = 'apad=whole_len=19200,ebur128=peak=true'
  const said = spawnSync(
    'ffmpeg',
    [
      '-nostats',
      '-f',
      'f32le',
      '-ar',
      '48000',
      '-ac',
      String(count),
      '-i',
      '-',
      '-af',
      filter,
      '-f',
      'null',
      '-',
    ],
    {
      input: new Uint8Array(samples.buffer),
      maxBuffer: 2 ** 28,
    },
  ).stderr.toString()
  const loudness = Number(/Integrated loudness:\s+I:\s+(-?[\d.]+)/.exec(said)?.[1])
  const peak = Number(/True peak:\s+Peak:\s+(-?[\d.]+)/.exec(said)?.[1])
  worstLoudness = Math.max(worstLoudness, Math.abs(heard.loudness - loudness))
  worstPeak = Math.max(worstPeak, Math.abs(heard.truePeak - peak))
}
report({ name: 'loudness.worst', value: worstLoudness, unit: 'LU', peer: 'ffmpeg ebur128, shown to 0.1' })
report({ name: 'true-peak.worst', value: worstPeak, unit: 'dB', peer: 'ffmpeg ebur128, shown to 0.1' })
report({ name: 'listening.realtime', value: audio / (spent / 1000), unit: 'x real time, one core' })
