import type { Sound } from '@yodel/core'

/** Picks one of the results, the best of which comes first; undefined when there is none. */
export type PickSound = (found: readonly Sound[]) => Sound | undefined

/** What the pane of sounds can be asked to do from elsewhere on the page. */
export interface ResultsPart {
  /** Chooses the next result, or the one before. */
  step(by: 1 | -1): void
  /** Tries the one that is picked of the results, once those of the present search are there. */
  tryFirst(pick: PickSound): void
  /** Goes to the next event of the chosen recording, or the one before. */
  stepEvent(by: 1 | -1): void
  /** Puts the chosen sound into the current kit. */
  fillKit(): void
  /** Chooses any one of the results. */
  shuffle(): void
  rate(rating: number): void
  /** Gives the keyboard back to the page. */
  leave(): void
}

/** Parts of the page that others may ask something of, while they are shown. */
export interface PartsOfPage {
  readonly search: { /** Puts the keyboard into the search, with all of its words selected. */ focus(): void }
  readonly timecode: { /** Lets a time be typed to go to. */ type(): void }
  readonly results: ResultsPart
}

/** Where parts of the page say what they can do, so that nobody has to look for them in the page. */
export class Parts {
  private readonly offered = new Map<string, unknown>()
  private readonly wanted = new Map<string, (part: never) => void>()

  /** Offers a part. @returns Takes it back. */
  offer<Name extends keyof PartsOfPage>(name: Name, part: PartsOfPage[Name]): () => void {
    this.offered.set(name, part)
    const act = this.wanted.get(name)
    this.wanted.delete(name)
    act?.(part as never)
    return () => {
      if (this.offered.get(name) === part) this.offered.delete(name)
    }
  }

  /** A part that is shown now, or undefined. */
  get<Name extends keyof PartsOfPage>(name: Name): PartsOfPage[Name] | undefined {
    return this.offered.get(name) as PartsOfPage[Name] | undefined
  }

  /** Asks something of a part: at once, or as soon as it is there. Only the last thing asked counts. */
  ask<Name extends keyof PartsOfPage>(name: Name, act: (part: PartsOfPage[Name]) => void): void {
    const part = this.get(name)
    if (part) act(part)
    else this.wanted.set(name, act)
  }
}
