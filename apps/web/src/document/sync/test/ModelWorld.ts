import { cuesInOrder, deleteRecords, editCue, spotCue } from '@yodel/core'
import type { Aside } from '../syncState.js'
import type { Queue } from '../WaitingStore.js'
import { ModelLog } from './ModelLog.js'
import { ModelPage } from './ModelPage.js'

/** Numbers from 0 to below 1, always the same from one seed (mulberry32, public domain). */
function dice(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}

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
  private orphans: { browser: number; kept: Queue }[] = []

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

  leftBehind(browser: number): Queue[] {
    return this.orphans.filter((orphan) => orphan.browser === browser).map(({ kept }) => kept)
  }

  /** What was taken over goes from the disk with the write that holds it. */
  takenOver(kept: ReadonlySet<Queue>): void {
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
