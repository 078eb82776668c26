import { readdirSync, readFileSync, renameSync } from 'node:fs'
import path from 'node:path'
import {
  apply,
  documentOf,
  expectOk,
  layList,
  SHIPPED_RECIPES,
  tracksInOrder,
  type FoundSoundFile,
  type LayListArgs,
  type ListKind,
  type Recipe,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makePlacedReel, turnOver } from '../test/placedReel.js'
import { sendSheet, type SheetSent } from '../test/sendSheet.js'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
/** The lists of a turnover of the reel, by kind. */
const lists = new Map<string, string>()

const documentNow = async (): Promise<ReelDocument> =>
  documentOf((await server.app.inject(`/api/reels/${reel}`)).json<ReelState>().records)

beforeAll(async () => {
  server = await startTestServer()
  reel = await makePlacedReel(server)
  const kinds: ListKind[] = ['otio', 'adl', 'edl']
  const recipe: Recipe = { ...(SHIPPED_RECIPES[2] as Recipe), lists: kinds, sounds: 'whole', mix: false }
  const { folder } = await turnOver(server, reel, recipe)
  for (const name of readdirSync(path.join(folder, 'lists'))) {
    // Beside the EDL of all tracks there is one for each.
    if (!name.endsWith('.edl') || /all.tracks/.test(name))
      lists.set(path.extname(name).slice(1), readFileSync(path.join(folder, 'lists', name), 'utf8'))
  }
})
afterAll(() => server.close())

const send = (text: string, name: string, query = ''): Promise<SheetSent> =>
  sendSheet(server, reel, name, text, query)

/** The placed sounds of a document as they sound, without ids and links. */
const placed = (doc: ReelDocument, from: number): object[] =>
  tracksInOrder(doc)
    .slice(from)
    .flatMap(({ id }) => [...doc.clip.values()].filter(({ trackId }) => trackId === id))
    .map(({ start, length, offset, soundId, gain, fadeIn, fadeInShape, reverse }) => ({
      ...{ start, length, offset, soundId, gain, fadeIn, fadeInShape, reverse },
    }))
    .sort((a, b) => a.start - b.start)

describe('a list of a turnover', () => {
  it.each(['otio', 'adl', 'edl'])(
    'as %s is laid again where it was, its recordings found by content or name',
    async (kind) => {
      const { status, body } = await send(lists.get(kind) ?? '', `tracks.${kind}`)
      expect(status, body.message).toBe(200)
      const { list, matches, sounds } = body.placed!
      expect(list.left).toEqual([])
      for (const { by } of matches)
        expect(by).toEqual(kind === 'edl' ? (expect.stringMatching(/path|name/) as string) : 'checksum')
      const known = new Map(sounds.map((sound) => [sound.id, sound]))
      const args: LayListArgs = {
        ...{ list, shift: 0, markers: 'none', from: 'x', author: '', at: '' },
        tracks: new Map(list.tracks.map((_, index) => [index, 'FX'])),
        sounds: new Map(matches.map(({ media, id }) => [media.key, known.get(id!)!])),
        newId: () => crypto.randomUUID(),
      }
      const doc = await documentNow()
      const after = expectOk(apply(doc, expectOk(layList(doc, args))))
      expect(placed(after, doc.track.size)).toEqual(placed(doc, 0))
    },
  )

  it('finds a recording that was renamed, by its checksum; of another content it says so', async () => {
    renameSync(path.join(server.root, 'rain.wav'), path.join(server.root, 'drizzle.wav'))
    ffmpeg(path.join(server.root, 'door.wav'), '-f', 'lavfi', '-i', 'sine=d=6:r=48000', '-ac', '2')
    const [shelf] = (await server.app.inject('/api/shelves')).json<{ id: string }[]>()
    const job = await server.app.inject({ method: 'POST', url: `/api/shelves/${shelf!.id}/index` })
    await server.settled(job.json<{ jobId: string }>().jobId)
    const { matches, sounds } = (await send(lists.get('otio') ?? '', 'x.otio')).body.placed!
    const found = matches.map(({ id, by, differs }) => [
      sounds.find((sound) => sound.id === id)?.path,
      by,
      differs,
    ])
    expect(found).toEqual(
      expect.arrayContaining([
        ['drizzle.wav', 'checksum', false],
        ['door.wav', 'path', true],
        ['steps/boots.wav', 'checksum', false],
      ]),
    )
    const file = await server.app.inject(`/api/sounds/${matches[0]!.id!}/file`)
    expect(file.json<FoundSoundFile>()).toMatchObject({ id: matches[0]!.id, timeReference: 0 })
    expect((await server.app.inject('/api/sounds/none/file')).statusCode).toBe(404)
  })

  it('at another rate is read at that, and it is told where it says otherwise', async () => {
    const { body } = await send(lists.get('adl') ?? '', 'x.adl', '?rate=25')
    expect(body.placed?.list.left.join()).toMatch(/counts 24 frames a second and was read at 25/)
    const edl = '001 AX V C 00:00:00:00 00:00:01:00 01:00:02:24 01:00:03:00\r\n'
    expect((await send(edl, 'x.edl')).body.message).toMatch(/line 1: .*24/)
    const read = await send(edl, 'x.edl', '?rate=25')
    expect([read.body.rows.slice(1), read.body.placed]).toEqual([
      [['01:00:02:24', '01:00:03:00', 'AX', '']],
      null,
    ])
    expect((await send(edl, 'x.edl', '?rate=99')).status).toBe(400)
  })

  it.each([
    ['no timeline', '{"OTIO_SCHEMA": "Clip.2"}', /OpenTimelineIO.*Clip/],
    ['empty', '{"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1"}}', /no placed sound/],
    ['cut short', '{"OTIO_SCHEMA": "Timeline.1", "tracks": ', /no JSON/],
    ['an ADL with a line that can’t be read', '<ADL>\n(SEQ_DEST_START)\tnever\n', /line 2/],
  ])('that is %s is refused with the reason', async (_, text, says) => {
    const { status, body } = await send(text, 'their.list')
    expect([status, body.message]).toEqual([422, expect.stringMatching(says)])
    expect(body.message).toContain('their.list')
  })
})
