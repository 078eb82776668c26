import { standInMoments, standInSound, STAND_IN_ACTS, spokenWords, type Cue } from '@yodel/core'
import { answerOf } from '../api/answerOf.js'
import { heardLine, usualVoice, voicesApi } from '../api/voicesApi.js'
import { STAND_IN, type InputDevice } from '../engine/input/inputs.js'
import type { TakeOrder } from '../session/record/Recorder.js'
import type { CommandContext } from './context.js'

type Sound = Float32Array<ArrayBuffer>

/** What can be chosen in the place of a microphone. */
export const STAND_INS: readonly InputDevice[] = [
  { id: `${STAND_IN}step`, name: 'Stand-in: steps on gravel, with the guide' },
  { id: `${STAND_IN}bag`, name: 'Stand-in: a bag is crumpled' },
  { id: `${STAND_IN}line`, name: 'Stand-in: says the cue’s words' },
  { id: `${STAND_IN}click`, name: 'Stand-in: a click on the sync' },
]

/** Something the stand-in does at a sample of the reel. */
export interface Act {
  readonly sound: Sound
  readonly at: number
}

/** What the stand-in will do in a take; nothing where another input is open. It may have to ask for a voice first. */
export async function standInActs(
  { recorder, marks, dispatch }: CommandContext,
  { about }: TakeOrder,
  device: string,
  args: { cue: Cue | null; sampleOf: (frame: number) => number },
): Promise<Act[]> {
  const kind = device.startsWith(STAND_IN) ? device.slice(STAND_IN.length) : ''
  if (kind === 'line') {
    const asked = dispatch(voicesApi.endpoints.voices.initiate())
    const { voices = [] } = (await answerOf(asked).catch(() => null)) ?? {}
    const voice = usualVoice(voices, navigator.languages)
    if (!voice) throw new Error('The stand-in has no voice: none is installed on the server.')
    const text = spokenWords(args.cue?.words ?? '') || 'One, two. One, two.'
    const line = { text, voice: voice.name, pace: 170, pitch: 0 }
    const said = await heardLine({ line, seconds: null }, AbortSignal.timeout(10_000))
    const sound = await recorder.capture?.decode(said)
    return sound ? [{ sound, at: about.sync }] : []
  }
  const act = STAND_IN_ACTS.find((one) => one === kind)
  if (!act) return []
  const happenings = act === 'step' ? marks.current.onsets.map(args.sampleOf) : []
  // The sounds are other ones in each take.
  return standInMoments(happenings, about).map((at, index) => ({
    sound: standInSound(act, about.number * 1000 + index),
    at,
  }))
}
