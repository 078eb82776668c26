/**
 * Gives the samples of a track as its device has them (W3C, MediaStreamTrack Insertable Media Processing using Streams; Chromium has
 * it for sound, too, and in pages). TypeScript knows it in workers only, and for pictures.
 */
declare class MediaStreamTrackProcessor {
  /** @param init.maxBufferSize - Blocks that wait to be read; what comes when so many wait is lost */
  constructor(init: { track: MediaStreamTrack; maxBufferSize: number })
  readonly readable: ReadableStream<AudioData>
}
