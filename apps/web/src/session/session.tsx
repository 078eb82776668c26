import {
  frames,
  currentCut,
  FRAME_RATES,
  frameToSample,
  guideMedia,
  placeMarks,
  reelOf,
  type Analysis,
  type Picture,
  type Reel,
  type ReelMarks,
} from '@yodel/core'
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react'
import { api } from '../api/api.js'
import { useAppDispatch, useAppSelector, useAppStore } from '../document/store.js'
import { Engine } from '../engine/Engine.js'
import { HitPlayer } from './HitPlayer.js'
import { Listening } from './Listening.js'
import { LiveRide } from './LiveRide.js'
import { frameToOpen, rememberPlace } from './lastPlace.js'
import { Recorder } from './record/Recorder.js'
import { TakeStore } from './record/TakeStore.js'
import { Parts } from './Parts.js'
import { Transport } from './Transport.js'
import { followPlan } from './followPlan.js'
import { performActions } from '../document/performSlice.js'
import { recordActions } from '../document/recordSlice.js'
import { draftActions } from '../document/draftSlice.js'
import { stackActions } from '../document/stackSlice.js'
import { viewActions } from '../document/viewSlice.js'
import { rememberTakes } from './rememberTakes.js'

/** What belongs to an open reel beside its document: sound, time, and what parts of the page offer. */
export interface Session {
  readonly engine: Engine
  /** Listening to a recording by itself. */
  readonly listening: Listening
  readonly transport: Transport
  /** Riding a track by hand. */
  readonly liveRide: LiveRide
  /** Onsets of the guide and cuts of the picture as frames of the reel; empty until they are known. */
  readonly marks: { current: ReelMarks }
  readonly parts: Parts
  /** Plays what is hit while performing. */
  readonly hits: HitPlayer
  /** Records takes to picture. */
  readonly recorder: Recorder
}

const SessionContext = createContext<Session | null>(null)

/** The open reel's session. @throws Error outside of a reel */
export function useSession(): Session {
  const session = useContext(SessionContext)
  if (!session) throw new Error('useSession: no reel is open')
  return session
}

/** The facts of the open reel. */
export function useReel(): Reel {
  return useAppSelector((state) => reelOf(state.document.doc))
}

/** The open reel's picture, asked for again while it is being prepared; null when there is none. */
export function usePicture(): Picture | null {
  const { pictureId } = useReel()
  const [waiting, setWaiting] = useState(true)
  const { data } = api.usePictureQuery(pictureId ?? '', {
    skip: pictureId === null,
    pollingInterval: waiting ? 700 : 0,
    // Somebody else, or another tab, may have chosen other sound tracks.
    refetchOnFocus: true,
  })
  useEffect(() => setWaiting(data?.state === 'waiting' || data === undefined), [data])
  return pictureId !== null && data?.id === pictureId ? data : null
}

/** Frame of the open reel at which the current picture begins. */
export function usePictureOffset(): number {
  return useAppSelector((state) => currentCut(state.document.doc)?.offset ?? 0)
}

/** What was heard and seen in the current picture; null until it is ready. Samples and frames count from the picture's own first. */
export function useAnalysis(): Analysis | null {
  const picture = usePicture()
  const { data } = api.useAnalysisQuery(picture?.id ?? '', { skip: picture?.state !== 'ready' })
  return data ?? null
}

const NO_MARKS: ReelMarks = { onsets: [], cuts: [] }

/** Onsets of the guide and cuts of the picture as frames of the reel; empty until they are known. */
export function useMarks(): ReelMarks {
  const analysis = useAnalysis()
  const picture = usePicture()
  const offset = usePictureOffset()
  const { rate } = useReel()
  return useMemo(
    () =>
      analysis && picture
        ? placeMarks(analysis, FRAME_RATES[rate], FRAME_RATES[picture.rate], offset)
        : NO_MARKS,
    [analysis, picture, offset, rate],
  )
}

/** Opens sound and time for a reel and keeps what is heard in step with the document. */
export function SessionProvider({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const reel = useReel()
  const { id, rate, length } = reel
  const [session, setSession] = useState<Session | null>(null)

  useEffect(() => {
    const engine = new Engine()
    const heard = new Engine()
    const transport = new Transport(engine, FRAME_RATES[rate], length)
    const tell = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
    transport.onError = engine.onTrouble = heard.onTrouble = tell
    transport.goToFrame(frameToOpen(id) ?? reelOf(store.getState().document.doc).programme)
    const liveRide = new LiveRide(dispatch, store, transport)
    const listening = new Listening(store, heard, tell)
    const hits = new HitPlayer(tell)
    const parts = new Parts()
    const recorder = new Recorder(engine, transport, new TakeStore())
    setSession({
      ...{ engine, listening, transport, liveRide, marks: { current: NO_MARKS }, parts, hits, recorder },
    })
    dispatch(performActions.begin())
    dispatch(stackActions.begin())
    dispatch(draftActions.end())
    dispatch(recordActions.begin())
    const forget = rememberTakes(store, id, () => transport.speed, tell)
    // For measuring from outside (bench/): what sounds at a moment, and how often sound was missing.
    Object.assign(window, {
      yodelProbe: { audibleAt: (now: number) => engine.audibleAt(now), misses: () => engine.meter.misses },
    })
    const rememberGate = (): void =>
      rememberPlace({ reelId: id, frame: transport.frame, pass: store.getState().view.pass })
    window.addEventListener('pagehide', rememberGate)
    return () => {
      rememberGate()
      window.removeEventListener('pagehide', rememberGate)
      liveRide.end()
      forget()
      hits.dispose()
      recorder.dispose()
      transport.dispose()
      engine.dispose()
      heard.dispose()
    }
    // A reel of another rate or length has another clock.
  }, [id, rate, length, dispatch, store])

  return session ? <Heard session={session}>{children}</Heard> : null
}

function Heard({ session, children }: { session: Session; children: ReactNode }) {
  usePlan(session)
  const marks = useMarks()
  useEffect(() => {
    session.marks.current = marks
  }, [session, marks])
  return <SessionContext.Provider value={session}>{children}</SessionContext.Provider>
}

function usePlan({ engine }: Session): void {
  const store = useAppStore()
  const picture = usePicture()
  const { rate } = useReel()
  const offset = usePictureOffset()
  const [kept, setKept] = useState<ReturnType<typeof followPlan> | null>(null)
  useEffect(() => {
    const keeping = followPlan(store, engine)
    setKept(keeping)
    return keeping.end
  }, [store, engine])
  useEffect(() => {
    const start = frameToSample(frames(offset), FRAME_RATES[rate])
    const tracks = picture ? heardTracks(picture) : []
    kept?.setGuide(tracks.length > 0 ? { tracks, start } : null)
  }, [kept, picture, offset, rate])
}

/** The sound tracks of a picture that are heard as its guide. */
const heardTracks = ({ id, tracks, heard }: Picture): { mediaId: string; length: number }[] =>
  heard.flatMap((track) => {
    const length = tracks[track]?.length ?? 0
    return length > 0 ? [{ mediaId: guideMedia(id, track), length }] : []
  })
