import type { Stroke } from './stroke.js'

/**
 * Strokes that a browser or the system takes before a page hears of them, on one of Windows, Linux and macOS (where
 * `Ctrl` stands for Cmd). From memory: Chromium's `BrowserCommandController::IsReservedCommandOrKey`, Firefox's keys
 * with `reserved="true"`, Apple's list of system shortcuts; the letters of menus, which Alt opens on Windows and Linux.
 */
const RESERVED: ReadonlySet<Stroke> = new Set([
  ...['n', 't', 'w', 'q', 'h', 'm', 'Tab', 'PageUp', 'PageDown', 'Space', 'F4', '`'].map(
    (key) => `Ctrl ${key}`,
  ),
  ...['n', 't', 'w', 'p', 'q', 'Tab', '3', '4', '5'].map((key) => `Ctrl Shift ${key}`),
  // Chromium: the address (D), its menu (E, F); Firefox: File, Edit, View, History, Bookmarks, Tools, Help.
  ...['d', 'e', 'f', 'v', 's', 'b', 't', 'h'].flatMap((key) => [`Alt ${key}`, `Alt Shift ${key}`]),
  ...['Tab', 'F4', 'Space', 'Escape', 'Home', 'ArrowLeft', 'ArrowRight'].map((key) => `Alt ${key}`),
  ...['F1', 'F5', 'F6', 'F10', 'F11', 'F12'],
])

/** Whether a browser or the system keeps a stroke for itself somewhere, or does something of its own with it. */
export const isReserved = (stroke: Stroke): boolean => RESERVED.has(stroke)
