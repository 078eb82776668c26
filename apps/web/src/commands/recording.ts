import {
  addTake,
  cueCode,
  formatTimecode,
  frames,
  frameToSample,
  keepTakeOf,
  layTakeAtGate,
  nextTake,
  partOfTake,
  planTake,
  rateOf,
  reelOf,
  SAMPLE_RATE,
  type Candidate,
  type Cue,
  type Sound,
  type TakeAbout,
} from '@yodel/core'
import { forgetTake } from '../api/takesApi.js'
import { recordActions, type RecordSettings, type RecordState } from '../document/recordSlice.js'
import { Capture } from '../engine/input/Capture.js'
import { hasInput, inputDevices, STAND_IN, watchInputs } from '../engine/input/inputs.js'
import { recoverTakes } from '../session/record/recoverTakes.js'
import type { Recorded, TakeOrder } from '../session/record/Recorder.js'
import { standInActs, STAND_INS, type Act } from './standInActs.js'
import { askSounds, cantBeHad } from './askSounds.js'
import type { CommandContext } from './context.js'
import type { TryingCommands } from './trying.js'

/** A beep of the count-in: a twentieth of a second at 1 kHz, -20 dB, with soft edges. */
const BEEP = Float32Array.from({ length: SAMPLE_RATE / 20 }, (_, i) => {
  const edge = Math.min(1, i / 240, (SAMPLE_RATE / 20 - 1 - i) / 240)
  return 0.1 * edge * Math.sin((2 * Math.PI * 1000 * i) / SAMPLE_RATE)
})

/** Commands of {@link recordingCommands}. */
export type RecordingCommands = ReturnType<typeof recordingCommands>

/** Takes of a microphone to picture: recording them, and choosing the best. */
export function recordingCommands(context: CommandContext, tries: TryingCommands) {
  const { recorder, engine, transport, doc, cue, edit, refuse, tell, dispatch, state, newId } = context
  const recording = (): RecordState => state().recording
  const sampleOf = (frame: number): number => frameToSample(frames(Math.max(0, frame)), rateOf(doc()))
  const failed = (error: unknown): void =>
    void dispatch(recordActions.setTrouble(error instanceof Error ? error.message : String(error)))
  /** The numbers of takes that are on their way onto their cues, by the ids of these. */
  const coming = new Map<string, number>()
  let stopped = false

  const rememberRoundTrip = (): void => {
    const { device, roundTrips } = recording().settings
    const said = recorder.capture?.saidRoundTrip ?? 0
    dispatch(recordActions.setRoundTrip(roundTrips[device] ?? said))
  }

  const listInputs = async (): Promise<void> =>
    void dispatch(recordActions.setDevices([...(await inputDevices()), ...STAND_INS]))

  /** Opens the device that was chosen; where there is none, the stand-in. @returns Whether one is open */
  const open = async (device = recording().settings.device): Promise<boolean> => {
    dispatch(recordActions.setPhase('opening'))
    dispatch(recordActions.setTrouble(null))
    recorder.use(null)
    try {
      const none = !device.startsWith(STAND_IN) && !(await hasInput())
      const wanted = none ? `${STAND_IN}step` : device
      const capture = await Capture.open(wanted)
      recorder.use(capture)
      const chosen = capture.standIn ? wanted : (capture.deviceId ?? wanted)
      await listInputs()
      dispatch(recordActions.set({ device: chosen }))
      rememberRoundTrip()
      dispatch(recordActions.setPhase('ready'))
      if (none) tell('There is no microphone here; the stand-in takes its place.')
      return true
    } catch (error) {
      dispatch(recordActions.setPhase('closed'))
      failed(error)
      return false
    }
  }
  const close = async (): Promise<void> => {
    stopped = true
    if (recorder.rolling) await recorder.stop()
    recorder.use(null)
    dispatch(recordActions.setPhase('closed'))
    dispatch(recordActions.setOn(false))
  }

  /** What is to be recorded for the selected cue, or at the gate. */
  const orderOf = (of: Cue | null): TakeOrder => {
    const { settings, roundTrip } = recording()
    const reel = reelOf(doc())
    const rate = rateOf(doc())
    const reelEnd = sampleOf(reel.length)
    const gate = transport.frame
    const wanted = of
      ? { in: sampleOf(of.in), out: sampleOf(Math.max(of.out, of.in + 1)), sync: sampleOf(of.sync) }
      : { in: sampleOf(gate), out: reelEnd, sync: sampleOf(gate) }
    const number = of ? Math.max(nextTake(doc(), of.id), (coming.get(of.id) ?? 0) + 1) : 1
    const device = recording().devices.find(({ id }) => id === settings.device)?.name ?? settings.device
    return {
      plan: planTake({ ...wanted, reelEnd, countIn: settings.countIn }),
      channel: settings.channel,
      about: {
        ...{ id: newId(), reelId: state().document.reelId ?? '', cueId: of?.id ?? null, number },
        name: of
          ? `${cueCode(of)} take ${number}`
          : `Take at ${formatTimecode(reel.firstFrame + gate, rate).replaceAll(/[:;]/g, '.')}`,
        ...wanted,
        reelAt: frameToSample(frames(reel.firstFrame), rate),
        device: device.slice(0, 200),
        roundTrip,
        measured: settings.device in settings.roundTrips,
      },
    }
  }

  let acts: readonly Act[] = []
  const roll = async (of: Cue | null): Promise<void> => {
    const order = orderOf(of)
    if (of) coming.set(of.id, order.about.number)
    dispatch(recordActions.setTrouble(null))
    dispatch(recordActions.setTaking({ plan: order.plan, name: order.about.name }))
    dispatch(recordActions.setPhase('rolling'))
    try {
      acts = await standInActs(context, order, recording().settings.device, { cue: of, sampleOf })
      if (stopped) return idle()
      recorder.begin(order)
    } catch (error) {
      idle()
      failed(error)
    }
  }
  const idle = (): void => {
    dispatch(recordActions.setTaking(null))
    dispatch(recordActions.setPhase(recorder.capture ? 'ready' : 'closed'))
  }

  /** Beeps, and what the stand-in does, at their moments: now it is known when these are. */
  recorder.onRolling = (order) => {
    const { capture } = recorder
    const { rolling } = engine
    if (!capture || !rolling) return
    const frameOf = (sample: number): number => rolling.frame + sample - rolling.at
    for (const beep of order.plan.beeps) if (beep >= rolling.at) capture.play(BEEP, frameOf(beep))
    for (const { sound, at } of acts) capture.standIn?.act(sound, frameOf(at))
  }

  /** Puts a take that is a recording now onto its cue, or at the gate. */
  const settle = async (about: TakeAbout, sound: Sound): Promise<void> => {
    // Another reel is open by now: it comes in when this one is opened again.
    if (state().document.reelId !== about.reelId) return recorder.store.release(about.id)
    const { id, name, length } = sound
    const taken = { id, name, length }
    const part = partOfTake({ start: about.start, length }, about)
    const isThere = [...doc().candidate.values(), ...doc().clip.values()].some((one) => one.soundId === id)
    const of = about.cueId === null ? null : (doc().cue.get(about.cueId) ?? null)
    // Whoever brings it in gives it the same id, so that two people at once don’t bring it in twice.
    const isTaken = doc().candidate.has(about.id) || doc().clip.has(about.id)
    const own = isTaken ? newId() : about.id
    const done =
      isThere ||
      (of
        ? edit((now) => addTake(now, { id: own, cueId: of.id, take: about.number, sound: taken, part }))
        : edit((now) =>
            layTakeAtGate(now, {
              ...{ id: own, newTrackId: newId(), sound: taken, part },
              at: about.start + part.sync,
            }),
          ))
    if (!done) return
    await recorder.store.forget(about.id).catch(() => undefined)
    await forgetTake(about.id).catch(() => undefined)
  }
  const bring = async ({ about, sound }: Pick<Recorded, 'about' | 'sound'>): Promise<void> => {
    dispatch(recordActions.keep(1))
    try {
      await settle(about, await sound)
    } catch (error) {
      refuse(
        `${about.name} is not on the reel yet: ${error instanceof Error ? error.message : String(error)}`,
      )
    } finally {
      dispatch(recordActions.keep(-1))
    }
  }
  recorder.onRecorded = ({ about }, recorded) => {
    recorder.capture?.standIn?.rest()
    idle()
    transport.goToSample(about.in)
    if (!recorded) return
    if (recorded.slipped > 0)
      refuse(
        `${about.name} and the reel ran ${recorded.slipped} ms apart: this machine was too busy, or the input lost sound. Check where it lies, or do another take.`,
      )
    void bring(recorded)
    const of = doc().cue.get(about.cueId ?? '') ?? null
    if (recorded.whole && of && recording().settings.again && !stopped) void roll(of)
  }
  recorder.onLost = (order) => {
    idle()
    const until = order ? ` What came in until then is ${order.about.name}.` : ''
    failed(`The input has gone.${until} Plug it in again, or choose another one.`)
  }
  recorder.onTrouble = (message) => void dispatch(recordActions.setTrouble(message))

  return {
    /** Records a take of the selected cue, or at the gate; the same again ends it. The first time it opens the input. */
    take: async () => {
      const { on, phase } = recording()
      if (phase === 'rolling') {
        stopped = true
        return transport.stop()
      }
      if (phase === 'opening' || phase === 'measuring') return
      stopped = false
      if (!on) dispatch(recordActions.setOn(true))
      if (phase === 'closed') return void (await open())
      // What is tried would sound into the microphone.
      if (tries.isTrying()) tries.putBack()
      await roll(cue())
    },
    /** Closes the input and the strip. */
    close: () => {
      if (recording().on) void close()
    },
    /** Ends a take that rolls. @returns Whether one did */
    end: (): boolean => {
      if (recording().phase !== 'rolling') return false
      stopped = true
      transport.stop()
      return true
    },
    open,
    /** Keeps the list of inputs as it is, whatever is plugged in. @returns What ends that */
    watch: () => watchInputs(() => void listInputs()),
    set: (settings: Partial<RecordSettings>) => void dispatch(recordActions.set(settings)),
    /** Measures the round trip of the open device by a sound that it has to hear. */
    measure: async () => {
      const { capture } = recorder
      const { settings, phase } = recording()
      if (!capture || phase !== 'ready') return
      transport.stop()
      dispatch(recordActions.setPhase('measuring'))
      const found = await capture.measureRoundTrip(settings.channel)
      if (recorder.capture !== capture) return
      dispatch(recordActions.setPhase('ready'))
      if (found === null) {
        dispatch(
          recordActions.setTrouble(
            'The test sound was not heard. Turn the loudspeakers up, or lead the output into the input by a cable.',
          ),
        )
      } else {
        dispatch(recordActions.set({ roundTrips: { ...settings.roundTrips, [settings.device]: found } }))
        dispatch(recordActions.setRoundTrip(found))
      }
    },
    /** Makes a take the best of its cue, and lays it where it was performed. */
    keep: async (take: Candidate) => {
      const sounds = await askSounds(dispatch, [take.soundId])
      const sound = sounds?.[0]
      if (!sound) return refuse(cantBeHad(take.name, sounds))
      const args = { id: take.id, sound, newId: newId(), newTrackId: newId() }
      edit((now) => keepTakeOf(now, args))
    },
    /** Brings in what pages that have gone have left of the open reel. */
    recover: () => recoverTakes(recorder.store, state().document.reelId ?? '', recorder.onTrouble, bring),
  }
}
