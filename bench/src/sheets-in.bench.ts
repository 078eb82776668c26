// A sheet of 20,000 lines read by the server and previewed as the page does, and how long others wait meanwhile.
import { once } from 'node:events'
import { Worker } from 'node:worker_threads'
import {
  documentOf,
  expectOk,
  findHead,
  FRAME_RATES,
  matchTable,
  previewImport,
  tableOf,
  type IncomingSheet,
  type ReelState,
} from '@yodel/core'
import { realServer } from '../../e2e/support/server.js'
import { percentile, report } from './report.js'

const LINES = 20_000
const two = (value: number): string => String(value).padStart(2, '0')
const timecode = (frame: number): string =>
  [1 + Math.floor(frame / 90_000), Math.floor(frame / 1500) % 60, Math.floor(frame / 25) % 60, frame % 25]
    .map(two)
    .join(':')
const lines = Array.from(
  { length: LINES },
  (_, line) =>
    `${timecode(line * 9)};00:00:0${line % 10}:12;Door ${line}, ${'heavy and slow '.repeat(line % 5)};${['SFX', 'Foley', 'Atmo'][line % 3]};note ${line}`,
)
const sheet = ['The Lamp Room;;;;', 'TC Start;Dauer;Effekt;Art;Notizen', ...lines].join('\r\n')

const server = await realServer({ demo: false })
const made = await fetch(`${server.url}/api/reels`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({
    ...{ showId: null, showName: 'Bench', name: 'Reel 1', rate: '25' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 8000 },
  }),
})
const { id } = (await made.json()) as { id: string }
const { records } = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
const doc = documentOf(records)

async function previewed(): Promise<number> {
  const begun = performance.now()
  const body = new FormData()
  body.append('sheet', new Blob([sheet]), 'sheet.csv')
  const answer = await fetch(`${server.url}/api/reels/${id}/sheet?rate=25`, { method: 'POST', body })
  const read = (await answer.json()) as IncomingSheet
  const table = tableOf(read, findHead(read.rows))
  const match = matchTable(table.headings, table.rows)
  const options = { times: 'timecode', category: 'FX', spellings: {}, seconds: 1 } as const
  const found = expectOk(previewImport(doc, table, match, { rate: FRAME_RATES['25'], ...options }))
  if (found.cues.length !== LINES) throw new Error(`${found.cues.length} cues of ${LINES}`)
  return performance.now() - begun
}

// Whoever asks meanwhile is another process: this one is busy previewing.
const asker = new Worker(
  `const { parentPort, workerData } = require('node:worker_threads')
  const waits = []
  let over = false
  parentPort.on('message', () => (over = true))
  const ask = async () => {
    while (!over) {
      const asked = performance.now()
      await (await fetch(workerData)).text()
      waits.push(performance.now() - asked)
      await new Promise((resolve) => setTimeout(resolve, 10))
    }
    parentPort.postMessage(waits)
    parentPort.close()
  }
  void ask()`,
  { eval: true, workerData: `${server.url}/api/shows` },
)
await previewed()
const times: number[] = []
for (let round = 0; round < 3; round++) times.push(await previewed())
asker.postMessage('over')
const [waits] = (await once(asker, 'message')) as [number[]]
await server.close()
report({
  name: 'sheets-in.preview',
  value: percentile(times, 0.5) / 1000,
  unit: 's for 20,000 lines: read, matched, previewed (under 3)',
})
report({
  name: 'sheets-in.others',
  value: percentile(waits, 0.95),
  unit: 'ms until others are answered meanwhile, p95 (within 50)',
})
