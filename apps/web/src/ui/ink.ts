import type { Track } from '@yodel/core'

/** The class that gives a track its ink: that of its category, or its own. The category's code always stands beside it. */
export const inkOf = ({ ink, category }: Pick<Track, 'ink' | 'category'>): string =>
  `ink-${ink === 'category' ? category : ink}`
