declare module 'smpte-timecode' {
  /** A timecode at a rate, as another library counts it. */
  export default class Timecode {
    constructor(at: number | string, rate: number, dropFrame: boolean)
    readonly frameCount: number
  }
}
