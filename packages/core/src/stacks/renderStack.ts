import { Mixer } from '../audio/mixer.js'
import { voiceOf } from '../audio/plan.js'
import { planOfVoices, type PlanStrip, type RenderPlan } from '../audio/renderPlan.js'
import { clipAtSample } from '../edits/placeSound.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'
import { samplesIn } from '../time/convert.js'
import { stackSpan, type ShakenLayer } from './shakeStack.js'

/** What rings on in treatment is written until it has been softer than this for this long, and never longer than that. */
const SILENT = 10 ** (-72 / 20)
const SILENT_FOR = samplesIn(0.25)
const LONGEST_TAIL = samplesIn(12)

/**
 * What a stack sounds like by itself, from the beginning of its first layer.
 *
 * @param strip - Level, place and treatment it goes through
 */
export function planOfStack(layers: readonly ShakenLayer[], strip: Partial<PlanStrip> = {}): RenderPlan {
  const [from] = stackSpan(layers) ?? [0]
  const voices = layers
    .map(({ sound, at }, index) =>
      voiceOf(clipAtSample({ id: String(index), trackId: '', cueId: null, at: at - from, sound })),
    )
    .sort((a, b) => a.start - b.start)
  return planOfVoices(voices, strip)
}

/** Two channels of the same length. */
export interface Stereo {
  readonly left: Float32Array
  readonly right: Float32Array
}

/**
 * Renders a stack in the mixer, with what rings on in its treatment. The same code on server and in browser: the same bits.
 *
 * @throws Error when a recording could not be read
 */
export function renderStack(
  layers: readonly ShakenLayer[],
  port: SoundPort,
  strip: Partial<PlanStrip> = {},
): Stereo {
  const [from, to] = stackSpan(layers) ?? [0, 0]
  const length = to - from
  const mixer = new Mixer(planOfStack(layers, strip), port)
  const rings = (strip.inserts ?? []).length > 0
  const room = length + (rings ? LONGEST_TAIL : 0)
  const [left, right] = [new Float32Array(room), new Float32Array(room)]
  let loud = length
  let at = 0
  while (at < room && (at < length || at - loud < SILENT_FOR)) {
    const count = Math.min(MIX_BLOCK, room - at)
    mixer.render(left, right, at, count)
    at += count
    if (at > length && peakOf(left, right, at - count, at) > SILENT) loud = at
  }
  if (mixer.misses > 0) throw new Error('a recording of the stack could not be read to its end')
  const end = Math.min(at, Math.max(length, loud))
  return { left: left.subarray(0, end), right: right.subarray(0, end) }
}

function peakOf(left: Float32Array, right: Float32Array, from: number, to: number): number {
  let peak = 0
  for (let i = from; i < to; i++)
    peak = Math.max(peak, Math.abs(left[i] as number), Math.abs(right[i] as number))
  return peak
}
