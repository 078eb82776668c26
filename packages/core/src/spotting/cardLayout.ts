/** A card that wants to stand at `wanted` and takes `height`, both in pixels. */
export interface CardWish {
  readonly id: string
  readonly wanted: number
  readonly height: number
}

/** Where a card stands after layout. */
export interface CardPlace {
  readonly id: string
  readonly top: number
}

/**
 * Places cards in a column so that none overlap, their order is kept and the sum of squared displacements is least
 * (isotonic regression by pooling adjacent violators).
 *
 * @param wishes - In the order in which they shall stand.
 * @param gap - Pixels kept between cards.
 * @param min - No card stands above this.
 */
export function layoutCards(wishes: readonly CardWish[], gap: number, min = -Infinity): CardPlace[] {
  // Taking off the heights stacked above turns "no overlap" into "not decreasing".
  const blocks: { sum: number; count: number }[] = []
  const offsets: number[] = []
  let stacked = 0
  for (const wish of wishes) {
    offsets.push(stacked)
    blocks.push({ sum: wish.wanted - stacked, count: 1 })
    stacked += wish.height + gap
    for (;;) {
      const last = blocks[blocks.length - 1]
      const before = blocks[blocks.length - 2]
      if (!last || !before || before.sum / before.count <= last.sum / last.count) break
      blocks.splice(-2, 2, { sum: before.sum + last.sum, count: before.count + last.count })
    }
  }
  const levels = blocks.flatMap((block) =>
    Array<number>(block.count).fill(Math.max(min, block.sum / block.count)),
  )
  return wishes.map((wish, index) => ({ id: wish.id, top: (levels[index] ?? 0) + (offsets[index] ?? 0) }))
}
