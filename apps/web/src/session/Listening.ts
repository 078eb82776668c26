import {
  matchGain,
  placeTreatment,
  planOfVoices,
  prepareSound,
  throughTrack,
  voiceAlone,
  type PlanStrip,
  type Preparation,
  type RenderPlan,
  type Sound,
  type SoundToPlace,
} from '@yodel/core'
import type { AppStore } from '../document/store.js'
import type { Engine } from '../engine/Engine.js'

/** Listens to a recording by itself, with its preparation, through an engine of its own. */
export class Listening {
  private current: { sound: Sound; placed: SoundToPlace; preparation: Preparation } | null = null

  constructor(
    private readonly store: AppStore,
    private readonly engine: Engine,
    private readonly refuse: (text: string) => void,
  ) {}

  /**
   * Plays the chosen part of a sound, gone round where that is wanted.
   *
   * @param at - Sample of the file to begin from; the beginning of the part when left out. What lies outside of the part is heard as well when it is asked for.
   */
  play(sound: Sound, at?: number): void {
    const { prepared, matched, loop, inPlace } = this.store.getState().trying
    const chosen = this.store.getState().trying.sound?.id === sound.id
    const preparation = chosen
      ? prepared
      : { ...prepared, in: null, out: null, sync: null, fadeIn: null, fadeOut: null, channels: '' }
    const outside =
      at !== undefined && (at < (preparation.in ?? 0) || at >= (preparation.out ?? sound.length))
    const placed = prepareSound(sound, outside ? { ...preparation, in: null, out: null } : preparation)
    const { from = 0, to = placed.recorded } = placed
    this.current = { sound, placed, preparation }
    const treatment = inPlace ? placeTreatment(inPlace.place, inPlace.amount) : ''
    const voice = voiceAlone({ ...placed, treatment }, matched ? matchGain(sound) : 0)
    this.engine.setPlan(planOfVoices([voice], this.strip()))
    const begin = at === undefined ? 0 : Math.max(0, this.playedPlace(at) - from)
    void this.engine
      .play(begin, 1, loop ? { from: 0, to: to - from } : null)
      .catch((error: unknown) => this.refuse(error instanceof Error ? error.message : String(error)))
  }

  /** Plays a plan of sounds together from its beginning, gone round where that is wanted. @param length - Samples */
  playPlan(planFor: (strip: Partial<PlanStrip>) => RenderPlan, length: number): void {
    this.current = null
    this.engine.setPlan(planFor(this.strip()))
    const { loop } = this.store.getState().trying
    void this.engine
      .play(0, 1, loop ? { from: 0, to: length } : null)
      .catch((error: unknown) => this.refuse(error instanceof Error ? error.message : String(error)))
  }

  /** What the chosen track would make of it, where that is wanted. */
  private strip(): Partial<PlanStrip> {
    const { trying, view, document } = this.store.getState()
    if (!trying.through) return {}
    const { doc } = document
    const track = view.selected
      .map((id) => doc.track.get(doc.clip.get(id)?.trackId ?? id))
      .find((one) => one !== undefined)
    return track ? throughTrack(doc, track) : {}
  }

  /** Stops at once. */
  stop(): void {
    this.engine.stop()
  }

  /** The sample of the file that is heard at a moment; null when this sound is not heard. @param now - as `performance.now()` */
  placeAt(soundId: string, now: number): number | null {
    const at = this.engine.audibleAt(now)
    const { current } = this
    if (at === null || current?.sound.id !== soundId) return null
    const { from = 0, to = 0, recorded, speed = 1, reverse } = current.placed
    if (at > to - from) return null
    return (reverse ? recorded - from - at : from + at) * speed
  }

  private playedPlace(at: number): number {
    const { recorded = 0, speed = 1, reverse } = this.current?.placed ?? {}
    const place = Math.round(at / speed)
    return reverse ? recorded - place : place
  }
}
