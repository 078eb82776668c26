/** Which of an input's channels are recorded. */
export type InputChannel = 'left' | 'right' | 'both'

/** From the page to the capturing thread. */
export type ToCapture = { type: 'record'; channel: InputChannel } | { type: 'stop' }

/** From the capturing thread to the page. `frame` is the audio clock's, of the first sample of what came. */
export type FromCapture =
  | { type: 'samples'; frame: number; samples: Float32Array<ArrayBuffer> }
  | { type: 'stopped' }
  /** The peak of each channel since the last message, 1 at full scale, and overs since recording began. */
  | { type: 'level'; peaks: number[]; overs: number }
