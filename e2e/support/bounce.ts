import type { RealServer } from './server.js'

/** Bounces a reel's mix. @returns the file. */
export async function bounced(server: RealServer, reelId: string): Promise<Buffer> {
  const { jobId } = (await (
    await fetch(`${server.url}/api/reels/${reelId}/bounce`, { method: 'POST' })
  ).json()) as { jobId: string }
  for (let state = ''; state !== 'done';) {
    await new Promise((resolve) => setTimeout(resolve, 300))
    const job = (await (await fetch(`${server.url}/api/jobs/${jobId}`)).json()) as { state: string }
    if (job.state === 'failed') throw new Error(JSON.stringify(job))
    state = job.state
  }
  return Buffer.from(await (await fetch(`${server.url}/api/bounces/${jobId}`)).arrayBuffer())
}
