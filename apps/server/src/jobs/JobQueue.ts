import { randomUUID } from 'node:crypto'
import {
  isJobKind,
  JOB_KINDS,
  JOB_LANES,
  type JobKind,
  type JobLane,
  type JobPayload,
  type JobResult,
} from '@yodel/core'
import type { FastifyBaseLogger } from 'fastify'
import type { DataSource } from 'typeorm'
import { JobEntity } from '../db/entities.js'
import type { JobRow } from '../db/rows.js'
import { explainDisk, reasonOf } from '../errors.js'

/** What a running job is given: progress to report, and a signal that it was cancelled or the server stops. */
export interface JobContext {
  readonly id: string
  readonly signal: AbortSignal
  /** Reports progress, 0 to 1, and what is being done. */
  progress(part: number, message?: string): void
}

/** Does each kind of job; what comes back is kept as the job's result. Must be safe to run again after a crash. */
export type JobHandlers = {
  readonly [Kind in JobKind]: (payload: JobPayload<Kind>, context: JobContext) => Promise<JobResult<Kind>>
}

/** What a job is about hears of it: it waits (again), or it has failed and why. */
export type JobNews = (
  job: Pick<JobRow, 'kind' | 'payload'>,
  state: 'waiting' | 'failed',
  message: string,
) => Promise<void>

/** How many jobs of each lane a process does at once. */
export type LaneSlots = Readonly<Record<JobLane, number>>

const BEAT_MS = 1000
/** A job whose worker has not said anything for this long belongs to nobody. */
const LAPSE_MS = 6000
const MAX_ATTEMPTS = 3
const SLOTS: LaneSlots = { turnover: 1, pictures: 1, listening: 1 }

const kindsOf = (lane: JobLane): string[] =>
  Object.entries(JOB_KINDS).flatMap(([kind, { lane: own }]) => (own === lane ? [kind] : []))

/**
 * Long work, kept in PostgreSQL so that a killed server loses none of it.
 * Workers of any number of processes claim jobs with SKIP LOCKED and say every second that they live;
 * a job that has gone silent is taken up by another. Jobs wait in lanes, so that a long one holds up only its like.
 */
export class JobQueue {
  private readonly running = new Map<string, { lane: JobLane; controller: AbortController }>()
  private timer: NodeJS.Timeout | null = null
  private stopped = false

  constructor(
    private readonly db: DataSource,
    private readonly handlers: JobHandlers,
    private readonly log: Pick<FastifyBaseLogger, 'error' | 'info'>,
    private readonly tell: JobNews = () => Promise.resolve(),
    private readonly slots: LaneSlots = SLOTS,
  ) {}

  /** Begins to claim jobs. */
  start(): void {
    this.timer = setInterval(() => void this.beat(), BEAT_MS)
    void this.claim()
  }

  /** Aborts what runs and waits for it; the jobs go back to waiting. */
  async stop(): Promise<void> {
    this.stopped = true
    if (this.timer) clearInterval(this.timer)
    for (const { controller } of this.running.values()) controller.abort(new Error('the server stops'))
    while (this.running.size > 0) await new Promise((resolve) => setTimeout(resolve, 10))
  }

  /** Adds a job and returns its id. */
  async add<Kind extends JobKind>(kind: Kind, title: string, payload: JobPayload<Kind>): Promise<string> {
    const id = randomUUID()
    const fresh = { state: 'waiting', createdAt: new Date(), message: '', progress: 0, attempts: 0 } as const
    await this.db.getRepository(JobEntity).insert({ id, kind, title, payload: payload as never, ...fresh })
    void this.claim()
    return id
  }

  /** A job by id, or null. */
  async find(id: string): Promise<JobRow | null> {
    return this.db.getRepository(JobEntity).findOneBy({ id })
  }

  /** Cancels a job; one that runs in this process is stopped at once, elsewhere at its next beat. */
  async cancel(id: string): Promise<void> {
    await this.db.query(
      `UPDATE job SET state = 'cancelled', message = 'Cancelled.' WHERE id = $1 AND state IN ('waiting', 'running')`,
      [id],
    )
    this.running.get(id)?.controller.abort(new Error('cancelled'))
  }

  /** Pauses a job: it stops where it is and keeps what it has done. Only jobs that can be run again may be paused. */
  async pause(id: string): Promise<void> {
    await this.db.query(`UPDATE job SET state = 'paused' WHERE id = $1 AND state IN ('waiting', 'running')`, [
      id,
    ])
    this.running.get(id)?.controller.abort(new Error('paused'))
  }

  /** Lets a paused job go on, and tries one anew that failed or was cancelled. */
  async resume(id: string): Promise<void> {
    const [rows] = (await this.db.query(
      `UPDATE job SET state = 'waiting', attempts = 0, message = '', result = NULL, progress = 0, beat_at = NULL
         WHERE id = $1 AND state IN ('paused', 'failed', 'cancelled') RETURNING *`,
      [id],
    )) as [JobRow[], number]
    if (rows[0]) await this.tell(rows[0], 'waiting', '')
    void this.claim()
  }

  private async beat(): Promise<void> {
    try {
      const ids = [...this.running.keys()]
      if (ids.length > 0) {
        await this.db.query('UPDATE job SET beat_at = now() WHERE id = ANY($1)', [ids])
        const gone = (await this.db.query(
          `SELECT id FROM job WHERE id = ANY($1) AND state IN ('cancelled', 'paused')`,
          [ids],
        )) as { id: string }[]
        for (const { id } of gone) this.running.get(id)?.controller.abort(new Error('stopped'))
      }
      await this.claim()
    } catch (error) {
      this.log.error(`jobs: the database did not answer: ${reasonOf(error)}`)
    }
  }

  private async claim(): Promise<void> {
    await Promise.all(JOB_LANES.map((lane) => this.claimLane(lane)))
  }

  private async claimLane(lane: JobLane): Promise<void> {
    const busy = (): number => [...this.running.values()].filter((job) => job.lane === lane).length
    while (!this.stopped && busy() < this.slots[lane]) {
      const claimed = await this.claimOne(lane)
      if (!claimed) return
      void this.run(claimed)
    }
  }

  private async claimOne(lane: JobLane): Promise<JobRow | null> {
    // A slot is taken before the query returns, so that two claims at once can't overfill.
    const marker = `claiming-${randomUUID()}`
    this.running.set(marker, { lane, controller: new AbortController() })
    try {
      const [rows] = (await this.db.query(
        `UPDATE job SET state = 'running', beat_at = now(), attempts = attempts + 1 WHERE id = (
           SELECT id FROM job WHERE kind = ANY($2)
             AND (state = 'waiting' OR (state = 'running' AND beat_at < now() - make_interval(secs => $1)))
           ORDER BY created_at LIMIT 1 FOR UPDATE SKIP LOCKED) RETURNING *`,
        [LAPSE_MS / 1000, kindsOf(lane)],
      )) as [JobRow[], number]
      const row = rows[0] ?? null
      if (row) this.running.set(row.id, { lane, controller: new AbortController() })
      return row
    } catch (error) {
      if (!this.stopped) this.log.error(`jobs: claiming failed: ${reasonOf(error)}`)
      return null
    } finally {
      this.running.delete(marker)
    }
  }

  /** Does a job with what it was given, once that is checked. */
  private async does(job: JobRow, context: JobContext): Promise<Record<string, unknown> | null> {
    if (job.attempts > MAX_ATTEMPTS) {
      throw new Error(`given up after ${MAX_ATTEMPTS} attempts that ended with the server`)
    }
    if (!isJobKind(job.kind)) throw new Error(`no worker knows jobs of kind ${job.kind}`)
    const handler = this.handlers[job.kind] as (payload: unknown, context: JobContext) => Promise<unknown>
    const given = JOB_KINDS[job.kind].payload.safeParse(job.payload)
    if (!given.success)
      throw new Error(`the job was given something else than a ${job.kind} needs; start it again`)
    return (await handler(given.data, context)) as Record<string, unknown> | null
  }

  private async run(job: JobRow): Promise<void> {
    const { controller } = this.running.get(job.id) ?? { controller: new AbortController() }
    let lastWrite = 0
    const progress = (part: number, message = ''): void => {
      const now = Date.now()
      if (now - lastWrite < 200) return
      lastWrite = now
      void this.db
        .query(`UPDATE job SET progress = $2, message = $3 WHERE id = $1 AND state = 'running'`, [
          job.id,
          part,
          message,
        ])
        .catch(() => undefined)
    }
    try {
      const result = await this.does(job, { id: job.id, signal: controller.signal, progress })
      await this.finish(job.id, 'done', '', result)
    } catch (error) {
      if (this.stopped)
        await this.db
          .query(
            `UPDATE job SET state = 'waiting', attempts = attempts - 1 WHERE id = $1 AND state = 'running'`,
            [job.id],
          )
          .catch(() => undefined)
      else await this.fail(job, error, controller.signal)
    } finally {
      this.running.delete(job.id)
      if (!this.stopped) void this.claim()
    }
  }

  /** Tells what a job is about that it has failed, then notes it; who sees the job ended sees the thing as it is. */
  private async fail(job: JobRow, error: unknown, signal: AbortSignal): Promise<void> {
    const reason = reasonOf(explainDisk(error, `what “${job.title}” makes`))
    // One that was cancelled or paused has not failed.
    if (!signal.aborted)
      await this.tell(job, 'failed', reason).catch((lost: unknown) =>
        this.log.error(`jobs: ${job.title} failed, and nobody could be told: ${reasonOf(lost)}`),
      )
    await this.finish(job.id, 'failed', reason, null)
  }

  private async finish(
    id: string,
    state: 'done' | 'failed',
    message: string,
    result: Record<string, unknown> | null,
  ): Promise<void> {
    await this.db
      .query(
        `UPDATE job SET state = $2::text, message = $3, result = $4, progress = CASE WHEN $2::text = 'done' THEN 1 ELSE progress END WHERE id = $1 AND state = 'running'`,
        [id, state, message, result === null ? null : JSON.stringify(result)],
      )
      .catch((error: unknown) =>
        this.log.error(`jobs: ${id} ended ${state} and could not be noted: ${reasonOf(error)}`),
      )
  }
}
