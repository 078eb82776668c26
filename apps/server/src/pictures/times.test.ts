import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import type { Picture } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

// Movies whose times say something else than their bytes: each has a beep while a bar of light is shown, made at the same moment by ffmpeg.
const FPS = 25
/** Seconds of programme at which light and beep begin, to a frame. */
const LIGHT = 2
const SECONDS = 6

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const inRoot = (name: string): string => path.join(server.root, name)

/** Picture alone: black, with light from {@link LIGHT} on for a second. */
const picture = (name: string, ...more: string[]): string =>
  ffmpeg(
    inRoot(name),
    ...['-f', 'lavfi', '-i', `color=black:size=320x180:rate=${FPS}:duration=${SECONDS}`],
    ...['-vf', `drawbox=color=white:t=fill:enable='between(t,${LIGHT},${LIGHT + 0.99})'`],
    ...['-c:v', 'libx264', '-g', '12', ...more],
  )
/** Sound alone: silence, with a tone from {@link LIGHT} on for a second. @param from - Seconds that are missing at its head */
const sound = (name: string, from = 0): string =>
  ffmpeg(
    inRoot(name),
    ...[
      '-f',
      'lavfi',
      '-i',
      `aevalsrc='if(between(t,${LIGHT},${LIGHT + 0.99}),0.5*sin(2*PI*1000*t),0)':s=48000:d=${SECONDS}`,
    ],
    ...['-ss', String(from), '-c:a', 'pcm_s16le'],
  )

async function taken(file: string): Promise<Picture> {
  const answer = await server.app.inject({
    method: 'POST',
    url: '/api/pictures/pick',
    payload: { path: file },
  })
  expect(answer.statusCode, answer.body).toBe(201)
  const made = answer.json<Picture>()
  await server.settled(made.jobId!)
  return (await server.app.inject(`/api/pictures/${made.id}`)).json<Picture>()
}

/** First frame of the proxy that is light, and first sample of the guide that sounds; -1 for none. */
async function lightAndBeep(file: string): Promise<{ light: number; beep: number; made: Picture }> {
  const made = await taken(file)
  expect(made).toMatchObject({ state: 'ready' })
  const proxy = path.join(server.dataDir, 'pictures', made.id, 'frames.h264')
  const grey = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', proxy, '-vf', 'scale=1:1:flags=area,format=gray', '-fps_mode', 'passthrough'],
    ...['-f', 'rawvideo', '-'],
  ])
  const samples: number[] = []
  const { length, channels } = made.tracks[0] ?? { length: 0, channels: 1 }
  for (let chunk = 0; samples.length / channels < length; chunk++) {
    const { rawPayload } = await server.app.inject(`/api/media/guide-${made.id}/pcm/${chunk}`)
    for (let at = 0; at < rawPayload.length; at += 4) samples.push(rawPayload.readFloatLE(at))
  }
  const beep = samples.findIndex((value) => Math.abs(value) > 0.02)
  return {
    light: grey.findIndex((value) => value > 128),
    beep: beep < 0 ? -1 : Math.floor(beep / channels),
    made,
  }
}
/** Samples between the beginning of the light's frame and of the beep. */
const apart = ({ light, beep }: { light: number; beep: number }, fps = FPS): number =>
  beep - (light / fps) * 48_000

describe('sound is laid by its times, against the first frame that is shown', () => {
  const join = (name: string, before: string[], ...args: string[]): string =>
    ffmpeg(inRoot(name), ...before, '-map', '0:v', '-map', '1:a', ...args)

  it.each(['mov', 'mkv'])('that begins late in a %s is late, to the sample', async (kind) => {
    const video = picture(`v.${kind}`)
    const late = sound('late.wav', 1.5)
    const file = join(`late.${kind}`, ['-i', video, '-itsoffset', '1.5', '-i', late], '-c', 'copy')
    const found = await lightAndBeep(file)
    expect(found.light).toBe(LIGHT * FPS)
    expect(Math.abs(apart(found))).toBeLessThan(kind === 'mov' ? 3 : 50)
  })

  it('that begins before the picture does not bring it forward', async () => {
    const file = join(
      'picture-late.mkv',
      ['-itsoffset', '1', '-i', picture('v2.mkv'), '-i', sound('s2.wav')],
      '-c',
      'copy',
    )
    const found = await lightAndBeep(file)
    // The beep stands a second before the light in this file.
    expect(found.light).toBe(LIGHT * FPS)
    expect(Math.abs(apart(found) + 48_000)).toBeLessThan(50)
  })

  it('that has a hole is silent there, and right after it', async () => {
    const holed = ffmpeg(
      inRoot('holed.mkv'),
      ...['-i', picture('v3.mkv'), '-i', sound('s3.wav'), '-map', '0:v', '-map', '1:a', '-c:v', 'copy'],
      ...['-af', "aselect='not(between(t,0.5,1.2))'", '-c:a', 'pcm_s16le'],
    )
    expect(Math.abs(apart(await lightAndBeep(holed)))).toBeLessThan(50)
  })

  it.each([
    ['mpegts', 'ts', ['-c:v', 'libx264', '-c:a', 'mp2', '-b:a', '256k']],
    ['mpeg', 'mpg', ['-c:v', 'mpeg2video', '-c:a', 'mp2', '-b:a', '256k']],
  ])('of an %s stream is within two milliseconds', async (format, ending, codecs) => {
    const file = join(
      `stream.${ending}`,
      ['-i', picture(`v4-${format}.mkv`), '-i', sound('s4.wav')],
      ...[...codecs, '-f', format],
    )
    const found = await lightAndBeep(file)
    expect(found.light).toBe(LIGHT * FPS)
    expect(Math.abs(apart(found))).toBeLessThan(96)
  })

  it('that can’t be decoded does not cost the picture: it is said, and there is no guide', async () => {
    const file = join(
      'no-guide.avi',
      ['-i', picture('v5.mkv'), '-i', sound('s5.wav')],
      ...['-c:v', 'mpeg4', '-c:a', 'pcm_s16le'],
    )
    // A codec's number that nobody has.
    const bytes = readFileSync(file)
    bytes.writeUInt16LE(0x7777, bytes.indexOf('strf', bytes.indexOf('auds')) + 8)
    writeFileSync(file, bytes)
    const made = await taken(file)
    expect(made).toMatchObject({ state: 'ready', heard: [], frames: SECONDS * FPS })
    expect(made.message).toMatch(/no-guide\.avi has sound that can't be decoded: there is no guide/)
  })
})

describe('a movie that does not run at one rate', () => {
  it('shows each moment where it belongs, with its sound, and says how', async () => {
    // 30 fps, then 24, then 20, as a phone films it when it gets dark; the light comes in the last part.
    const file = ffmpeg(
      inRoot('phone.mkv'),
      ...['-f', 'lavfi', '-i', 'color=black:size=320x180:rate=120:duration=9', '-i', sound('s6.wav')],
      ...['-map', '0:v', '-map', '1:a'],
      '-vf',
      "drawbox=color=white:t=fill:enable='between(t,2,2.99)',select='if(lt(t,1),not(mod(n,4)),if(lt(t,1.6),not(mod(n,5)),not(mod(n,6))))'",
      ...['-fps_mode', 'vfr', '-c:v', 'libx264', '-c:a', 'copy'],
    )
    const found = await lightAndBeep(file)
    const [num, den] =
      found.made.rate.startsWith('23') || found.made.rate.startsWith('29') ? [1000, 1001] : [1, 1]
    const fps = (Math.ceil(Number.parseFloat(found.made.rate)) * num!) / den!
    expect(Math.abs(apart(found, fps))).toBeLessThan(48_000 / fps)
    expect(found.made.message).toMatch(/phone\.mkv does not run evenly at .* fps: .* (shown longer|left out)/)
  })

  it('with one frame missing keeps its rate, and everything after it stays in its place', async () => {
    const file = ffmpeg(
      inRoot('hole.mkv'),
      ...['-i', picture('v7.mkv'), '-i', sound('s7.wav'), '-map', '0:v', '-map', '1:a', '-c:a', 'copy'],
      ...['-vf', "select='not(eq(n,20))'", '-fps_mode', 'vfr', '-c:v', 'libx264'],
    )
    const found = await lightAndBeep(file)
    expect([found.made.rate, found.light, found.made.frames]).toEqual(['25', LIGHT * FPS, SECONDS * FPS])
    expect(Math.abs(apart(found))).toBeLessThan(50)
    expect(found.made.message).toMatch(/1 frame is shown longer/)
  })
})
