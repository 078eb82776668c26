// A scratch voice: from asking for a sentence of ten words to its first sound in the page, and how near lines come to their cues.
import { speechOf, type Voices } from '@yodel/core'
import { realServer } from '../../e2e/support/server.js'
import { launch } from '../../e2e/support/browser.js'
import { percentile, report } from './report.js'

const ROUNDS = 60
const SENTENCES = [
  'I told you twice that the night train never stops.',
  'Nobody has come down this line since the bridge went.',
  'Hold the lever until I wave and then let go.',
  'You can hear her long before you ever see her.',
]
const VOICES = ['flite rms', 'espeak-ng en-gb']

const server = await realServer({ demo: false })
const browser = await launch()
const page = await browser.newPage()
await page.goto(server.url)
const { voices } = (await (await fetch(`${server.url}/api/voices`)).json()) as Voices

/** Asks as the page does, and decodes what comes, until it could sound. @returns Milliseconds and seconds of speech */
const hear = (line: { text: string; voice: string; pace: 'cue' | number }, seconds: number | null) =>
  page.evaluate(
    async ({ body }) => {
      const begun = performance.now()
      const answer = await fetch('/api/voices/hear', {
        ...{ method: 'POST', body, headers: { 'content-type': 'application/json' } },
      })
      if (!answer.ok) throw new Error(await answer.text())
      const heard = await new OfflineAudioContext(1, 1, 48_000).decodeAudioData(await answer.arrayBuffer())
      return { ms: performance.now() - begun, seconds: heard.duration }
    },
    { body: JSON.stringify({ line: { ...line, pitch: 0 }, seconds }) },
  )

const first: number[] = []
for (const voice of VOICES) {
  const took: number[] = []
  for (let round = 0; round < ROUNDS; round++)
    took.push((await hear({ voice, text: SENTENCES[round % SENTENCES.length] ?? '', pace: 170 }, null)).ms)
  report({ name: `voice.first-sound.${voice}.p95`, value: percentile(took, 0.95), unit: 'ms' })
  first.push(...took)
}
report({ name: 'voice.first-sound.p95', value: percentile(first, 0.95), unit: 'ms' })

const off: number[] = []
const words = SENTENCES.map((text) => speechOf(text).length > 0 && text.split(' ').length)
for (const voice of VOICES)
  for (const [index, text] of SENTENCES.entries())
    for (const pace of [130, 150, 190, 240]) {
      const wanted = (60 * (words[index] || 10)) / pace
      off.push(100 * Math.abs((await hear({ voice, text, pace: 'cue' }, wanted)).seconds / wanted - 1))
    }
report({ name: 'voice.as-long-as-cue.off.max', value: Math.max(...off), unit: '%' })
report({ name: 'voice.voices', value: voices.length, unit: 'voices' })
await browser.close()
await server.close()
process.exit()
