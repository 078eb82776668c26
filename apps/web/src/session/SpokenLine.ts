/** Plays one short recording by itself, that no shelf has: the last one ends when another begins. */
export class SpokenLine {
  private context: AudioContext | null = null
  private source: AudioBufferSourceNode | null = null

  /** Plays a file of sound from its beginning. @param onEnd - Called when it has played to its end @throws Error when it can't be decoded */
  async play(bytes: ArrayBuffer, onEnd: () => void): Promise<void> {
    this.stop()
    this.context ??= new AudioContext()
    await this.context.resume()
    const source = this.context.createBufferSource()
    this.source = source
    source.buffer = await this.context.decodeAudioData(bytes)
    // Another one, or silence, was asked for meanwhile.
    if (this.source !== source) return
    source.onended = () => {
      if (this.source === source) onEnd()
    }
    source.connect(this.context.destination)
    source.start()
  }

  /** Silence. */
  stop(): void {
    const { source } = this
    this.source = null
    if (source?.buffer) source.stop()
  }
}
