import {
  FRAME_RATES,
  recordsOf,
  type ReelDocument,
  type Result,
  type Change,
  type ReelMarks,
} from '@yodel/core'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { makeCommands, type Commands } from '../commands/commands.js'
import { documentActions } from '../document/documentSlice.js'
import { edit } from '../document/edit.js'
import { makeStore, type AppStore } from '../document/store.js'
import { Listening } from '../session/Listening.js'
import type { HitPlayer } from '../session/HitPlayer.js'
import { LiveRide } from '../session/LiveRide.js'
import { Parts } from '../session/Parts.js'
import { Recorder } from '../session/record/Recorder.js'
import { TakeStore } from '../session/record/TakeStore.js'
import type { Session } from '../session/session.js'
import { Transport } from '../session/Transport.js'
import { FakeEngine } from './FakeEngine.js'
import { FakeHits } from './FakeHits.js'

/** A page's clock and refreshes, moved by hand. */
export class Clock {
  now = 0
  private callbacks = new Map<number, (now: number) => void>()
  private ids = 0

  /** Puts this clock in the place of the browser's own. */
  install(): void {
    Object.assign(globalThis, {
      requestAnimationFrame: (callback: (now: number) => void) => {
        this.callbacks.set(++this.ids, callback)
        return this.ids
      },
      cancelAnimationFrame: (id: number) => void this.callbacks.delete(id),
    })
    performance.now = () => this.now
  }

  /** Lets time pass, and then one refresh. */
  pass(ms: number): void {
    this.now += ms
    const due = [...this.callbacks.values()]
    this.callbacks = new Map()
    for (const callback of due) callback(this.now)
  }
}

/** Things kept by name, as a browser keeps them. */
export function installStorage(): Map<string, string> {
  const kept = new Map<string, string>()
  const storage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
    key: (index: number) => [...kept.keys()][index] ?? null,
    get length() {
      return kept.size
    },
  }
  Object.assign(globalThis, { localStorage: storage, sessionStorage: storage, innerWidth: 1280 })
  return kept
}

/** A store with a reel open as the server would have sent it; nothing is sent. */
export function openStore(doc: ReelDocument = testReel(), seq = 1): AppStore {
  const store = makeStore()
  store.dispatch(documentActions.open({ reelId: 'r' }))
  const task = store.getState().document.task?.id ?? 0
  const reel = { seq, me: 'Ines', records: recordsOf(doc), log: [] }
  store.dispatch(documentActions.opened({ task, reel, waiting: { pending: [], aside: [], since: [] } }))
  return store
}

/** Everything that an open reel has but the page, the server and the loudspeaker. */
export interface Stage {
  readonly store: AppStore
  readonly clock: Clock
  readonly engine: FakeEngine
  readonly hits: FakeHits
  readonly transport: Transport
  readonly session: Session
  readonly commands: Commands
  /** The document as it is now. */
  readonly doc: () => ReelDocument
  /** Does an edit that must be possible. */
  readonly does: (compute: (doc: ReelDocument) => Result<Change>) => void
  /** What was told last, or undefined. */
  readonly told: () => string | undefined
  /** Ids of what is selected. */
  readonly selected: () => readonly string[]
}

/** Sets the stage with a reel. */
export function setStage(doc?: ReelDocument): Stage {
  const clock = new Clock()
  clock.install()
  installStorage()
  const store = openStore(doc)
  const engine = new FakeEngine(() => clock.now)
  const listener = new FakeEngine(() => clock.now)
  const transport = new Transport(engine.asEngine(), FRAME_RATES['24'], 14_400)
  const noMarks: ReelMarks = { onsets: [], cuts: [] }
  const hits = new FakeHits()
  const session: Session = {
    engine: engine.asEngine(),
    listening: new Listening(store, listener.asEngine(), () => undefined),
    transport,
    liveRide: new LiveRide(store.dispatch, store, transport),
    marks: { current: noMarks },
    parts: new Parts(),
    hits: hits as unknown as HitPlayer,
    recorder: new Recorder(engine.asEngine(), transport, new TakeStore()),
  }
  return {
    ...{ store, clock, engine, hits, transport, session },
    commands: makeCommands(store, session),
    doc: () => store.getState().document.doc,
    does: (compute) => {
      if (!store.dispatch(edit(compute))) throw new Error(store.getState().view.notices.at(-1)?.text)
    },
    told: () => store.getState().view.notices.at(-1)?.text,
    selected: () => store.getState().view.selected,
  }
}

/** Lets promises that are settled be heard of. */
export const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))
