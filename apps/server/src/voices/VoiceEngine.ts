import type { Voice } from '@yodel/core'

/** Words to be said with a voice. */
export interface SpeechOrder {
  /** The voice as the engine names it. */
  readonly voice: string
  /** How many times as long as by itself the words are to take. */
  readonly stretch: number
  /** Semitones above the voice as it is by itself. */
  readonly semitones: number
  /** A UTF-8 file that holds the words, without any sign that is an order to an engine. */
  readonly textFile: string
  /** The WAV file to be written. */
  readonly out: string
}

/** A voice of an engine: what the engine calls it, and what is known of it. */
export interface EngineVoice extends Omit<Voice, 'name' | 'engine'> {
  readonly id: string
}

/** A program that speaks. It is run without a shell; the words reach it in a file. */
export interface VoiceEngine {
  readonly name: string
  readonly command: string
  /** What to do where it is not installed. */
  readonly otherwise: string
  /** Words a minute at which it speaks by itself. */
  readonly usualPace: number
  /** What the program is run with to say something. */
  readonly sayArgs: (order: SpeechOrder) => string[]
  /** What it is run with to list its voices, or null where they are known without it. */
  readonly listArgs: readonly string[] | null
  /** The voices in what it has listed. */
  readonly voicesIn: (listed: string) => EngineVoice[]
}
