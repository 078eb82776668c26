/** A player of hits that makes no sound: it keeps what it was asked to play, and when that was ended. */
export class FakeHits {
  readonly played: { soundId: string; gain: number; speed: number; ended: boolean }[] = []
  /** Whether what is hit lies ready. */
  ready = true

  load(): Promise<void> {
    return Promise.resolve()
  }

  play(soundId: string, _part: unknown, _length: number, as: { gain: number; speed: number }) {
    if (!this.ready) return null
    const played = { soundId, ...as, ended: false }
    this.played.push(played)
    return () => void (played.ended = true)
  }

  dispose(): void {}
}
