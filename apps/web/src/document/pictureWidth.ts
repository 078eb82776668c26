const KEY = 'yodel-picture-width'

/** The narrowest that the column of the picture can be, which is how it begins, in pixels. */
export const SMALL_PICTURE = 296
/** What stays of the page for the Sheet: its cues are to be seen. */
const LEFT_FOR_SHEET = 320
/** Width of the pane at the right, in pixels. */
export const PANE = 306

/** A width that the column of the picture can have on a page so wide. */
export const heldWidth = (width: number, page: number): number =>
  Math.round(Math.max(SMALL_PICTURE, Math.min(width, page - LEFT_FOR_SHEET)))

/** The widest that the column can be beside a pane at the right. @param page - Width of the page */
export const widestWithPane = (page: number): number => heldWidth(page - LEFT_FOR_SHEET - PANE, page)

/** The width in a pass: the pane gives way, and the Sheet is its cues. @param page - Width of the page */
export const passWidth = (page: number): number => heldWidth(widestWithPane(page) + 1, page)

/** From small to large to as large as it gets, and back to small. @param page - Width of the page */
export function nextWidth(width: number, page: number): number {
  const sizes = [SMALL_PICTURE, heldWidth(page / 2, page), heldWidth(page, page)]
  return sizes.find((size) => size > heldWidth(width, page)) ?? SMALL_PICTURE
}

/** The width that was chosen last in this browser. */
export function lastWidth(): number {
  const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEY)
  return Number(kept) || SMALL_PICTURE
}

/** Remembers the width that was chosen. */
export const keepWidth = (width: number): void => localStorage.setItem(KEY, String(width))
