import type { InputChannel, InputLevels, InputPart } from '@yodel/core'

/** From the page to the capturing thread. */
export type ToCapture = { type: 'record'; channel: InputChannel } | { type: 'stop' }

/** From the capturing thread to the page. */
export type FromCapture =
  { type: 'part'; part: InputPart } | { type: 'levels'; levels: InputLevels } | { type: 'stopped' }
