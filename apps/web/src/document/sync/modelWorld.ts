import {
  apply,
  checkChange,
  cuesInOrder,
  documentOf,
  editCue,
  deleteRecords,
  isEmpty,
  recordsOf,
  sameRecord,
  spotCue,
  stacksFromLog,
  touchedIds,
  type Change,
  type ReelDocument,
  type ReelState,
  type Result,
} from '@yodel/core'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
import { syncSteps, type Answer, type Waiting } from './syncMachine.js'
import {
  CLOSED,
  saveStateOf,
  type Aside,
  type Logged,
  type Pending,
  type SyncState,
  type Task,
} from './syncState.js'

/** Numbers from 0 to below 1, always the same from one seed (mulberry32, public domain). */
export function dice(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}

const MAKING: Logged = {
  ...({ seq: 1, changeId: 'making', author: 'nobody', at: '', role: 'do', target: null } as const),
  change: { label: 'Make reel', added: recordsOf(testReel()), updated: [], removed: [] },
}

/** A plain model of the server: a log, and what it says to each change that is sent. */
export class ModelLog {
  readonly entries: Logged[] = [MAKING]
  private readonly docs: ReelDocument[] = [documentOf(recordsOf(testReel()))]
  private readonly versions = new Map<string, number>()
  private readonly removed = new Set<string>()

  /** @param refuses - Whether a change can never be stored, by its id: as a server that answers 500 to it, and only to it. */
  constructor(private readonly refuses: (changeId: string) => boolean) {}

  get doc(): ReelDocument {
    return this.docs.at(-1) as ReelDocument
  }

  /** Whether a cue was taken out, or never came in. */
  isGone(id: string): boolean {
    return this.removed.has(id) || !this.doc.cue.has(id)
  }

  since(seq: number): Logged[] {
    return this.entries.slice(seq)
  }

  open(me: string): ReelState {
    const log = this.entries.map(({ change, ...line }) => ({ ...line, label: change.label }))
    return { seq: this.entries.length, me, records: recordsOf(this.doc), log }
  }

  commit(author: string, { item, base, target }: Extract<Task, { kind: 'send' }>): Answer {
    const { changeId, role, change } = item
    const known = this.entries.find((entry) => entry.changeId === changeId)
    if (known)
      return { kind: 'committed', seq: known.seq, missed: this.entries.slice(base, known.seq), at: '' }
    if (this.refuses(changeId) || isEmpty(change))
      return { kind: 'refused', why: 'The server met an error of its own.' }
    const next = apply(this.doc, change)
    const stale = touchedIds(change).some((id) => (this.versions.get(id) ?? 0) > base)
    if (stale || !next.ok)
      return { kind: 'conflict', missed: this.since(base), why: 'It was changed in the meantime.' }
    const checked = checkChange(next.value, change)
    if (!checked.ok) {
      if (base < this.entries.length)
        return { kind: 'conflict', missed: this.since(base), why: checked.message }
      return { kind: 'refused', why: checked.message }
    }
    const seq = this.entries.length + 1
    const missed = this.since(base)
    this.entries.push({ seq, changeId, author, at: '', role, target, change })
    this.docs.push(next.value)
    for (const id of touchedIds(change)) this.versions.set(id, seq)
    for (const { id } of change.removed) this.removed.add(id)
    return { kind: 'committed', seq, missed, at: '' }
  }
}

interface Kept {
  readonly seq: number
  readonly pending: readonly Pending[]
  readonly aside: readonly Aside[]
}

/** A page of a browser: its state, what of it is on disk, and the answers that are on their way to it. */
export class ModelPage {
  state: SyncState = CLOSED
  disk: Kept = { seq: 0, pending: [], aside: [] }
  /** Changes done here, so that none can vanish unseen; with the ids of cues that each adds or words. */
  readonly did: Pending[] = []
  readonly answers: (() => void)[] = []
  /** An act was passed over because nothing of it was left; the stacks then differ from the log's by it. */
  passedOver = false
  private readonly taken = new Set<Kept>()
  private asked = 0
  private read = ''

  constructor(
    private readonly world: ModelWorld,
    readonly me: string,
    readonly browser: number,
  ) {
    this.step('open', { reelId: 'r' })
  }

  step<K extends keyof typeof syncSteps>(name: K, payload: Parameters<(typeof syncSteps)[K]>[1]): void {
    const before = this.state
    this.state = (syncSteps[name] as (state: SyncState, payload: unknown) => SyncState)(before, payload)
    if (
      this.state.news !== before.news &&
      this.state.news.some(({ text }) => text.includes('Nothing of it'))
    ) {
      this.passedOver = true
    }
    this.ask()
  }

  /** Writes what waits, as it is now, to disk. */
  write(): void {
    if (this.state.phase !== 'open') return
    const { settled, pending, aside } = this.state
    this.disk = { seq: settled.seq, pending, aside }
    this.world.takenOver(this.taken)
    this.step('written', { pending, aside, ok: true })
  }

  edit(compute: (doc: ReelDocument) => Result<Change>, changeId: string): void {
    if (this.state.phase !== 'open') return
    const change = compute(this.state.doc)
    if (!change.ok || isEmpty(change.value)) return
    const after = apply(this.state.doc, change.value)
    if (!after.ok || !checkChange(after.value, change.value).ok) return
    this.did.push({ changeId, role: 'do', of: null, change: change.value })
    this.step('done', { changeId, change: change.value })
  }

  /** Puts the answer of a task that has been begun among those on their way; a lost one is an answer that the server is away. */
  private ask(): void {
    const { task, turns, reelId } = this.state
    const act = turns[0] && this.state[turns[0].role].at(-1)
    const wanted = act && !act.change && act.seq !== null ? `${turns[0]?.changeId} ${act.seq}` : ''
    if (wanted && wanted !== this.read) {
      const seq = act?.seq ?? 0
      const lost = this.world.chance(0.2)
      const change = lost ? null : (this.world.log.entries[seq - 1]?.change ?? null)
      this.answers.push(() => this.step('bodyRead', { reelId: reelId ?? '', seq, change }))
    }
    this.read = wanted
    if (!task || task.id <= this.asked) return
    this.asked = task.id
    this.answers.push(() => this.answer(task))
  }

  private answer(task: Task): void {
    const { world } = this
    const reached = !world.away()
    if (task.kind === 'pause') return this.step('pauseOver', { task: task.id })
    if (task.kind === 'open') return this.open(task.id, reached)
    if (!reached)
      return this.step('answered', { task: task.id, answer: { kind: world.chance(0.2) ? 'full' : 'away' } })
    const { log } = world
    const answer =
      task.kind === 'send'
        ? log.commit(this.me, task)
        : ({ kind: 'caughtUp', changes: log.since(task.since) } as const)
    const arrives = world.chance(0.12) ? ({ kind: 'away' } as const) : answer
    const tell = (): void => this.step('answered', { task: task.id, answer: arrives })
    // On its way while others go on; now and then it comes twice.
    this.answers.push(tell)
    if (world.chance(0.1)) this.answers.push(tell)
  }

  private open(task: number, reached: boolean): void {
    const { world } = this
    if (!reached) return this.step('openFailed', { task, why: 'away', away: true })
    const found = this.state.phase === 'opening' ? world.leftBehind(this.browser) : []
    const seqs = [
      ...found.map(({ seq }) => seq),
      ...(this.state.pending.length > 0 ? [this.state.settled.seq] : []),
    ]
    const since = seqs.length > 0 ? world.log.since(Math.min(...seqs)) : []
    const reel = world.log.open(this.me)
    this.answers.push(() => {
      if (this.state.task?.id !== task) return
      for (const kept of found) this.taken.add(kept)
      this.step('opened', { task, reel, waiting: joined(found, since) })
    })
  }

  /** Takes over what pages of this browser that have gone left behind. */
  adopt(): void {
    if (this.state.phase !== 'open') return
    const found = this.world.leftBehind(this.browser).filter((kept) => !this.taken.has(kept))
    for (const kept of found) this.taken.add(kept)
    if (found.length === 0) return
    const since = this.world.log.since(Math.min(this.state.settled.seq, ...found.map(({ seq }) => seq)))
    this.step('adopted', { ...joined(found, since), since })
  }

  settledDown(): boolean {
    const { phase, task, pending, turns } = this.state
    return (
      phase === 'open' && !task && pending.length === 0 && turns.length === 0 && this.answers.length === 0
    )
  }
}

const joined = (found: readonly Kept[], since: Waiting['since']): Waiting => ({
  pending: found.flatMap(({ pending }) => pending),
  aside: found.flatMap(({ aside }) => aside),
  since,
})

/** Several pages in two browsers, a server that may be away, and everything that can go wrong between them, at random. */
export class ModelWorld {
  readonly log: ModelLog
  readonly pages: ModelPage[] = []
  readonly gone: ModelPage[] = []
  /** Changes that a page had not got to disk or to the server when it was killed: those may be lost. */
  readonly unkept = new Set<string>()
  /** Changes set aside that were done again, each with its new ids: another page may have held it, too. */
  readonly retried = new Map<string, string[]>()
  private quiet = false
  private isAway = false
  private ids = 0
  private orphans: { browser: number; kept: Kept }[] = []

  constructor(
    readonly seed: number,
    private readonly roll = dice(seed),
  ) {
    const bad = new Set<number>()
    for (let id = 0; id < 200; id++) if (roll() < 0.04) bad.add(id)
    this.log = new ModelLog((changeId) => bad.has(Number(changeId.slice(1))))
    for (let index = 0; index < 2 + Math.floor(roll() * 2); index++) this.pages.push(this.page(index % 2))
  }

  chance(share: number): boolean {
    return !this.quiet && this.roll() < share
  }

  away(): boolean {
    return !this.quiet && this.isAway
  }

  leftBehind(browser: number): Kept[] {
    return this.orphans.filter((orphan) => orphan.browser === browser).map(({ kept }) => kept)
  }

  /** What was taken over goes from the disk with the write that holds it. */
  takenOver(kept: ReadonlySet<Kept>): void {
    this.orphans = this.orphans.filter((orphan) => !kept.has(orphan.kept))
  }

  /** One thing happens. @returns The page that it happens to. */
  happen(): ModelPage {
    const page = this.pages[Math.floor(this.roll() * this.pages.length)] as ModelPage
    const what = this.roll()
    if (what < 0.42) this.deliver(page)
    else if (what < 0.72) this.act(page)
    else if (what < 0.86) page.write()
    else if (what < 0.9) this.isAway = !this.isAway
    else if (what < 0.94)
      page.step('received', {
        reelId: 'r',
        changes: this.log.since(Math.floor(this.roll() * this.log.entries.length)),
      })
    else if (what < 0.97) this.replace(page)
    else page.adopt()
    return page
  }

  /** Lets everything come to its end, with the server there and nothing more being lost. @returns Whether it does. */
  calm(): boolean {
    this.quiet = true
    for (let round = 0; round < 400; round++) {
      for (const page of this.pages) {
        this.deliver(page)
        page.write()
      }
      if (!this.pages.every((page) => page.settledDown())) continue
      for (const page of this.pages) page.adopt()
      for (const page of this.pages) page.step('received', { reelId: 'r', changes: this.log.since(0) })
      if (this.pages.every((page) => page.settledDown()) && this.orphans.length === 0) return true
    }
    return false
  }

  private page(browser: number): ModelPage {
    return new ModelPage(this, browser === 0 ? 'Ines' : 'Idris', browser)
  }

  /** The oldest answer on its way arrives, now and then another one first. */
  private deliver(page: ModelPage): void {
    const at = this.chance(0.15) ? Math.floor(this.roll() * page.answers.length) : 0
    page.answers.splice(at, 1)[0]?.()
  }

  private act(page: ModelPage): void {
    const changeId = `c${this.ids++}`
    const what = this.roll()
    const cues = cuesInOrder(page.state.doc)
    const cue = cues[Math.floor(this.roll() * cues.length)]
    if (what < 0.2) page.step('turn', { role: 'undo', changeId })
    else if (what < 0.3) page.step('turn', { role: 'redo', changeId })
    else if (what < 0.6 || !cue)
      page.edit((doc) => spotCue(doc, { id: `cue${changeId}`, category: 'FX', in: 10, out: 20 }), changeId)
    else if (what < 0.75)
      page.edit((doc) => editCue(doc, { id: cue.id, fields: { words: changeId } }), changeId)
    else if (what < 0.85)
      page.edit((doc) => editCue(doc, { id: cue.id, fields: { notes: changeId } }), changeId)
    else if (what < 0.95) page.edit((doc) => deleteRecords(doc, { ids: [cue.id] }), changeId)
    else if (page.state.aside[0]) this.retry(page, page.state.aside[0], changeId)
  }

  private retry(page: ModelPage, one: Aside, as: string): void {
    page.step('retried', { changeId: one.changeId, as })
    if (page.state.aside.some(({ changeId }) => changeId === one.changeId)) return
    this.retried.set(one.changeId, [...(this.retried.get(one.changeId) ?? []), as])
  }

  /** A page is reloaded, is killed, or goes to another reel and back: answers to the old one may still come. */
  private replace(page: ModelPage): void {
    const kept = new Set(
      [...page.disk.pending, ...page.disk.aside, ...this.log.entries].map(({ changeId }) => changeId),
    )
    for (const { changeId } of [...page.did, ...page.state.pending]) {
      if (!kept.has(changeId)) this.unkept.add(changeId)
    }
    this.orphans.push({ browser: page.browser, kept: page.disk })
    if (this.roll() < 0.3) {
      page.disk = { seq: 0, pending: [], aside: [] }
      page.step('close', undefined)
      page.step('open', { reelId: 'r' })
      return
    }
    this.gone.push(page)
    this.pages.splice(this.pages.indexOf(page), 1, this.page(page.browser))
  }
}

/** What is wrong with a page at this moment, or null. */
export function wrongNow({ state }: ModelPage): string | null {
  let { doc } = state.settled
  for (const item of state.pending) {
    const next = apply(doc, item.change)
    if (!next.ok) return `what waits does not fit: ${next.message}`
    doc = next.value
  }
  if (!sameDoc(doc, state.doc)) return 'the document is not what is settled with what waits done on it'
  if (state.phase === 'open' && saveStateOf(state) === 'saved' && state.pending.length > 0)
    return 'it says saved and is not'
  return null
}

/** What is wrong once everything has come to rest, or null. */
export function wrongAtRest(world: ModelWorld): string | null {
  const { log } = world
  const ids = log.entries.map((entry) => entry.changeId)
  if (new Set(ids).size !== ids.length) return 'a change is in the log twice'
  const aside = new Set(world.pages.flatMap((page) => page.state.aside.map((one) => one.changeId)))
  for (const page of world.pages) {
    if (!sameDoc(page.state.doc, log.doc)) return 'a page has drifted from the log'
    const { undo, redo } = stacksFromLog(
      log.entries.map((entry) => ({ ...entry, label: entry.change.label })),
      page.me,
    )
    const mine = [page.state.undo, page.state.redo].map((acts) => acts.map((act) => act.seq))
    if (!page.passedOver && JSON.stringify(mine) !== JSON.stringify([undo, redo]))
      return 'the stacks of undo and redo are not the log’s'
  }
  return lostIn(world, new Set(ids), aside)
}

/** A change that was on disk or never left its page, and is neither in the log nor set aside, nor is what it was done again as. */
function lostIn(world: ModelWorld, logged: ReadonlySet<string>, aside: ReadonlySet<string>): string | null {
  const isKept = (id: string): boolean =>
    logged.has(id) ||
    aside.has(id) ||
    world.unkept.has(id) ||
    (world.retried.get(id) ?? []).some((again) => isKept(again))
  const wantedOut = new Set(
    world.pages.flatMap(({ state }) =>
      state.aside.flatMap(({ change }) => change.removed.map(({ id }) => id)),
    ),
  )
  for (const page of [...world.pages, ...world.gone]) {
    for (const { changeId, change } of page.did) {
      if (isKept(changeId)) continue
      // What takes out a cue that is out already, whose making was set aside, or that another change which was set
      // aside wanted out as well, has nothing left to do.
      const hadNothing = ({ id }: { id: string }): boolean =>
        world.log.isGone(id) || world.retried.has(id.slice('cue'.length)) || wantedOut.has(id)
      if (change.removed.length > 0 && change.removed.every(hadNothing)) continue
      return `“${change.label}” (${changeId}) is lost`
    }
  }
  return null
}

function sameDoc(a: ReelDocument, b: ReelDocument): boolean {
  if (a === b) return true
  const records = recordsOf(a)
  if (records.length !== recordsOf(b).length) return false
  return records.every((record) => {
    const other = b[record.kind].get(record.id)
    return other === record || (other !== undefined && sameRecord(record, other))
  })
}
