import { randomUUID } from 'node:crypto'
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  joinSpeech,
  nextStretch,
  pauseScale,
  speechOf,
  trimSpeech,
  unpackSamples,
  wavLayout,
  type Saying,
  type Voice,
  type Voices,
} from '@yodel/core'
import { AppError, explainDisk, reasonOf } from '../errors.js'
import { Line } from '../processes/Line.js'
import { runTool } from '../processes/runTool.js'
import type { VoiceEngine } from './VoiceEngine.js'

/** A line that was said. */
export interface Speech {
  /** One channel, -1 to 1. */
  readonly samples: Float32Array
  /** Samples a second: the engine's own. */
  readonly rate: number
  /** It could be made as long as was asked for. */
  readonly fits: boolean
}

/** Engines that run at once. */
const AT_ONCE = 2
/** An engine that has not finished a piece after so many milliseconds has hung itself up. */
const PATIENCE_MS = 20_000
/** How often a line is said anew until it is as long as it should be, and how near that is. */
const TRIES = 8
const NEAR = 0.005
/** Half a semitone a step. */
const SEMITONES_A_STEP = 0.5
/** A cue that is not longer than this has only been pressed, in seconds. */
const NO_LENGTH = 0.1

/** The engines that speak, behind one door. */
export class VoiceBox {
  private readonly line = new Line(AT_ONCE)
  private listed: Promise<{ byName: Map<string, { engine: VoiceEngine; id: string }>; said: Voices }> | null =
    null

  /** @param folder - Of what is not finished @param patienceMs - How long an engine may take for a piece */
  constructor(
    private readonly engines: readonly VoiceEngine[],
    private readonly folder: () => Promise<string>,
    private readonly patienceMs = PATIENCE_MS,
  ) {}

  /** The voices of all engines, by language, and what to do for those that are not installed. */
  async voices(): Promise<Voices> {
    // Somebody may have installed one since it was looked for.
    if (this.listed && (await this.listed).said.missing.length > 0) this.listed = null
    return (await this.known()).said
  }

  /**
   * Says a line.
   *
   * @throws AppError `VOICE_MISSING` when there is no such voice, `BAD_REQUEST` when there is nothing to say or no time for it,
   * `VOICE_FAILED` when the engine hangs or dies
   */
  async say({ line, seconds }: Saying, signal: AbortSignal): Promise<Speech> {
    const { byName } = await this.known()
    const found = byName.get(line.voice)
    if (!found)
      throw new AppError(
        'VOICE_MISSING',
        `There is no voice “${line.voice}” on this server. Choose another one for this line.`,
      )
    const pieces = speechOf(line.text)
    if (!pieces.some((piece) => 'words' in piece))
      throw new AppError('BAD_REQUEST', 'There are no words in this line that could be said. Type some.')
    const wanted = line.pace === 'cue' ? (seconds ?? 0) : null
    if (wanted !== null && wanted < NO_LENGTH)
      throw new AppError(
        'BAD_REQUEST',
        'This cue has no length that a line could be as long as. Give the cue an out, or the line a pace.',
      )
    const semitones = line.pitch * SEMITONES_A_STEP
    const { engine, id } = found
    const first = line.pace === 'cue' ? 1 : engine.usualPace / line.pace
    const pauses = pieces.reduce((sum, piece) => sum + ('pause' in piece ? piece.pause : 0), 0)
    const scale = wanted === null ? 1 : pauseScale(pauses, wanted)
    const attempt = async (stretch: number): Promise<Speech & { length: number; spoken: number }> => {
      const said = await Promise.all(
        pieces.map((piece) =>
          'words' in piece
            ? this.sayWords(engine, id, piece.words, { stretch, semitones }, signal)
            : Promise.resolve(null),
        ),
      )
      const rate = said.find((one) => one !== null)?.rate ?? 0
      const parts = pieces.map((piece, at) =>
        'pause' in piece ? piece.pause * scale : (said[at]?.samples ?? 0),
      )
      const samples = joinSpeech(parts, rate)
      const length = samples.length / rate
      return { samples, rate, length, spoken: length - pauses * scale, fits: true }
    }
    let best = await attempt(first)
    if (wanted === null) return best
    const off = ({ length }: { length: number }): number => Math.abs(length - wanted) / wanted
    // Stretches that were too short and too long: what lies between them is not left again.
    let [short, long] = [0, Infinity]
    for (let tries = 1, stretch = first, last = best; tries < TRIES && off(best) > NEAR; tries++) {
      if (last.length < wanted) short = Math.max(short, stretch)
      else long = Math.min(long, stretch)
      const next = nextStretch(stretch, { spoken: last.spoken, pauses: pauses * scale, wanted })
      if (Math.abs(next - stretch) < 1e-3 * stretch) break
      stretch = next > short && next < long ? next : (short + Math.min(long, 2 * stretch)) / 2
      last = await attempt(stretch)
      if (off(last) < off(best)) best = last
    }
    return { ...best, fits: off(best) <= 0.02 }
  }

  private known() {
    this.listed ??= this.list()
    return this.listed
  }

  private async list() {
    const byName = new Map<string, { engine: VoiceEngine; id: string }>()
    const voices: Voice[] = []
    const missing: string[] = []
    for (const engine of this.engines) {
      try {
        const output = engine.listArgs
          ? await runTool(engine.command, engine.listArgs, { timeoutMs: this.patienceMs })
          : Buffer.alloc(0)
        for (const { id, ...about } of engine.voicesIn(output.toString())) {
          const name = `${engine.name} ${id}`
          if (byName.has(name)) continue
          byName.set(name, { engine, id })
          voices.push({ ...about, name, engine: engine.name })
        }
      } catch (error) {
        missing.push(`${engine.name} can't be used: ${reasonOf(error)} (${engine.otherwise})`)
      }
    }
    // Of two that are called alike that of the engine named first stands first.
    voices.sort((a, b) => a.called.localeCompare(b.called, 'en'))
    return { byName, said: { voices, missing } }
  }

  /** Says words in one breath. */
  private async sayWords(
    engine: VoiceEngine,
    voice: string,
    words: string,
    how: { readonly stretch: number; readonly semitones: number },
    signal: AbortSignal,
  ): Promise<{ samples: Float32Array; rate: number }> {
    const folder = path.join(await this.folder(), `${randomUUID()}.part`)
    const [textFile, out] = [path.join(folder, 'words.txt'), path.join(folder, 'said.wav')]
    try {
      return await this.line.run(signal, async () => {
        await mkdir(folder, { recursive: true })
        await writeFile(textFile, `${words}\n`)
        await runTool(engine.command, engine.sayArgs({ voice, ...how, textFile, out }), {
          timeoutMs: this.patienceMs,
          signal,
        }).catch((error: unknown) => {
          throw failed(engine, reasonOf(error))
        })
        const bytes = await readFile(out).catch(() => {
          throw failed(engine, 'it has written no sound')
        })
        return readSpeech(engine, bytes)
      })
    } catch (error) {
      throw explainDisk(error, 'what the voice says')
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  }
}

const failed = (engine: VoiceEngine, why: string): AppError =>
  new AppError(
    'VOICE_FAILED',
    `${engine.name} did not say this line: ${why}. Try again, or choose another voice.`,
  )

/** The first channel of what an engine has written, without silence around it. */
function readSpeech(engine: VoiceEngine, bytes: Buffer): { samples: Float32Array; rate: number } {
  const layout = wavLayout(bytes)
  if (!layout.ok) throw failed(engine, 'what it has written is no WAV file')
  const { channels, sampleRate, at } = layout.value
  const all = unpackSamples(layout.value, bytes.subarray(at))
  const samples = channels === 1 ? all : all.filter((_, index) => index % channels === 0)
  return { samples: trimSpeech(samples, sampleRate), rate: sampleRate }
}
