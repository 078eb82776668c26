// The second start of a set-up Yodel, by the command that a person types, to the printed address.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { report } from './report.js'

const dataDir = mkdtempSync(path.join(tmpdir(), 'yodel-start-'))

async function startOnce(): Promise<number> {
  const begun = performance.now()
  const child = spawn('npm', ['start'], {
    env: { ...process.env, YODEL_DATA_DIR: dataDir, YODEL_PORT: '0', YODEL_DATABASE_URL: '' },
    detached: true,
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const seconds = await new Promise<number>((resolve, reject) => {
    child.stdout.on(
      'data',
      (piece: Buffer) =>
        piece.toString().includes('Yodel is at') && resolve((performance.now() - begun) / 1000),
    )
    child.on('close', (code) => reject(new Error(`npm start ended with ${code}`)))
  })
  child.removeAllListeners('close')
  const ended = new Promise((resolve) => child.on('close', resolve))
  process.kill(-(child.pid ?? 0), 'SIGTERM')
  await ended
  return seconds
}

report({ name: 'start.first', value: await startOnce(), unit: 's' })
report({ name: 'start.warm', value: await startOnce(), unit: 's' })
rmSync(dataDir, { recursive: true, force: true })
