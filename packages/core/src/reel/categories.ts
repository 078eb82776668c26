/** Categories of cues and tracks, in the order in which lists and tracks show them. */
export const CATEGORIES = ['FX', 'FOL', 'BG', 'DX', 'MX', 'DSG'] as const

/** One of {@link CATEGORIES}. */
export type Category = (typeof CATEGORIES)[number]

/** What each category's code stands for. */
export const CATEGORY_NAMES: Readonly<Record<Category, string>> = {
  FX: 'Hard effects',
  FOL: 'Foley',
  BG: 'Backgrounds',
  DX: 'Dialogue',
  MX: 'Music',
  DSG: 'Sound design',
}
