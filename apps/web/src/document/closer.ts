/** A closer look at the picture: so many times as large, and which point of it (0 to 1 across and down) is in the middle. */
export interface Closer {
  readonly times: number
  readonly x: number
  readonly y: number
}

/** The whole picture. */
export const WHOLE_PICTURE: Closer = { times: 1, x: 0.5, y: 0.5 }

/** The closest look: beyond it a picture is nothing but its dots. */
export const CLOSEST = 8

const between = (least: number, value: number, most: number): number => Math.max(least, Math.min(most, value))

/** The same look, so that nothing beside the picture is seen. */
function held({ times, x, y }: Closer): Closer {
  const near = between(1, times, CLOSEST)
  const half = 0.5 / near
  return { times: near, x: between(half, x, 1 - half), y: between(half, y, 1 - half) }
}

/** Closer or farther, where a point stays in its place. @param at - The point in the view, 0 to 1 across and down */
export function zoomed(closer: Closer, factor: number, at: { x: number; y: number }): Closer {
  const times = between(1, closer.times * factor, CLOSEST)
  const shift = (centre: number, place: number): number =>
    centre + (place - 0.5) * (1 / closer.times - 1 / times)
  return held({ times, x: shift(closer.x, at.x), y: shift(closer.y, at.y) })
}

/** Moves the picture by parts of the view. */
export const panned = (closer: Closer, dx: number, dy: number): Closer =>
  held({ ...closer, x: closer.x - dx / closer.times, y: closer.y - dy / closer.times })

/** The next of whole, twice and four times as large, about the same point. */
export function nextCloser(closer: Closer): Closer {
  const times = [2, 4].find((size) => size > closer.times + 0.01) ?? 1
  return held({ ...closer, times })
}

/** A look as CSS `transform`, about the corner at the upper left. */
export function transformOf({ times, x, y }: Closer): string {
  const part = (centre: number): string => `${((0.5 / times - centre) * 100).toFixed(3)}%`
  return `scale(${times}) translate(${part(x)}, ${part(y)})`
}

const KEPT = 'yodel-closer'
/** So many looks are remembered in a browser, the last ones. */
const MOST = 400

/** Looks by the cue they belong to. */
export type Closers = Readonly<Record<string, Closer>>

/** The looks that this browser remembers. */
export function keptClosers(): Closers {
  if (typeof localStorage === 'undefined') return {}
  try {
    return (JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Closers | null) ?? {}
  } catch {
    return {}
  }
}

/** With another look for a cue, remembered in this browser; the whole picture is what needs no remembering. */
export function withCloser(all: Closers, key: string, closer: Closer): Closers {
  const { [key]: _, ...rest } = all
  const kept = closer.times === 1 ? rest : { ...rest, [key]: closer }
  const last = Object.fromEntries(Object.entries(kept).slice(-MOST))
  if (typeof localStorage !== 'undefined') localStorage.setItem(KEPT, JSON.stringify(last))
  return last
}
