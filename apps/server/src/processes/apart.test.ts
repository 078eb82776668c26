import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { blankCue, WHOLE_LIST } from '@yodel/core'
import { expect, it, vi } from 'vitest'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { runApart } from './apart.js'

const limits = { seconds: 60, what: 'Paper' }
/** A workbook of no cue at all. */
const paper = () =>
  runApart<Uint8Array>('turnover/paper/writePaper', { kind: 'xlsx', records: [], as: WHOLE_LIST }, limits)

it('says so where no process begins, and where only the first does not, another one does the work', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'yodel-apart-'))
  const asked = (beginSeconds: number) => runApart('test/beginsSecond', {}, { ...limits, beginSeconds })
  vi.stubEnv('YODEL_TEST_BEGUN', '')
  await expect(asked(1)).rejects.toThrow('Paper was not begun within 1 s')
  vi.stubEnv('YODEL_TEST_BEGUN', path.join(folder, 'begun'))
  await expect(asked(8)).resolves.toBe('came')
  vi.unstubAllEnvs()
  rmSync(folder, { recursive: true })
})

it('does work in a process of its own, more at once than there are processes', async () => {
  for (const file of await Promise.all(Array.from({ length: 8 }, paper)))
    expect(Buffer.from(file).subarray(0, 2).toString()).toBe('PK')
})

it('says what went wrong, and goes on with the next', async () => {
  await expect(runApart('nowhere/nothing', {}, limits)).rejects.toThrow(
    /Cannot find module|ERR_MODULE_NOT_FOUND/,
  )
  await expect(runApart('turnover/paper/writePaper', { kind: 'pdf', records: [] }, limits)).rejects.toThrow()
  await expect(paper()).resolves.toBeDefined()
})

it('ends what takes too long, and what can’t be handed over, without ending this process', async () => {
  const blank = blankCue({ category: 'FX', number: 1, in: 0, out: 1, sync: 0 })
  const cues = Array.from({ length: 5000 }, (_, at) => ({ ...blank, id: `c${at}`, number: at + 1 }))
  const order = {
    kind: 'pdf',
    records: [...testReel().reel.values(), ...cues],
    options: { date: '', thumbnails: null },
  }
  const soon = { seconds: 0.3, what: 'Paper of many cues' }
  await expect(runApart('turnover/paper/writePaper', order, soon)).rejects.toMatchObject({
    ...{ code: 'TOO_MUCH', message: 'Paper of many cues would take longer than 0.3 s; make it smaller.' },
  })
  await expect(runApart('turnover/paper/writePaper', () => undefined, limits)).rejects.toThrow()
  await expect(paper()).resolves.toBeDefined()
})
