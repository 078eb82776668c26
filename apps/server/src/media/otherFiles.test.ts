import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { probeMovie } from '../pictures/probeMovie.js'
import { ffmpeg } from '../test/testServer.js'
import { decodeSound } from './decode.js'
import { runTool } from '../processes/runTool.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-lists-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const tools = { ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' }

/** What must never be read: it lies beside the folder that may be. */
const secret = ffmpeg(path.join(folder, 'secret.wav'), '-f', 'lavfi', '-i', 'sine=duration=1')
const film = ffmpeg(path.join(folder, 'secret.mp4'), '-f', 'lavfi', '-i', 'testsrc=duration=1:rate=24')
const shelf = path.join(folder, 'shelf')
mkdirSync(shelf)

const lists = (file: string): [string, string][] => [
  [
    'an HLS list',
    `#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:1,\n${file}\n#EXTINF:1,\nfile://${file}\n#EXT-X-ENDLIST\n`,
  ],
  ['a concatenation', `ffconcat version 1.0\nfile ../${path.basename(file)}\n`],
  ['a DASH list', `<?xml version="1.0"?><MPD><Period><BaseURL>${file}</BaseURL></Period></MPD>`],
  ['a session description', `v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nm=audio 9 RTP/AVP 0\n`],
  ['a script', `AviSource("${file}")\n`],
  ['subtitles', `1\n00:00:00,000 --> 00:00:01,000\nHello\n`],
]

describe('a file that names other files', () => {
  it.each(lists(secret))('is not followed from a recording’s name: %s', async (_, text) => {
    const file = path.join(shelf, 'door.wav')
    writeFileSync(file, text)
    await expect(decodeSound(tools, { file, channels: 2 }, () => undefined)).rejects.toThrow(
      /neither a movie nor a recording|Invalid/,
    )
  })
  it.each(lists(film))('is not followed from a movie’s name: %s', async (_, text) => {
    const file = path.join(shelf, 'reel.mp4')
    writeFileSync(file, text)
    await expect(probeMovie(tools, file, 'reel.mp4')).rejects.toMatchObject({ code: 'MOVIE_UNREADABLE' })
  })
  it('is refused as numbered images, too', async () => {
    const args = ['-v', 'error', '-y', '-i', film, '-frames:v', '2', path.join(folder, 'still-%d.png')]
    await runTool('ffmpeg', args, { timeoutMs: 10_000 })
    const file = path.join(folder, 'still-%d.png')
    await expect(probeMovie(tools, file, 'still')).rejects.toMatchObject({ code: 'MOVIE_UNREADABLE' })
  })
})

it('a program that is not there is named, with what to do', async () => {
  await expect(runTool('/nowhere/ffmpeg', [], { timeoutMs: 1000 })).rejects.toThrow(
    '/nowhere/ffmpeg is not installed; install ffmpeg or set YODEL_FFMPEG_DIR',
  )
})
