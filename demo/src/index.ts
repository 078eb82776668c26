import { fileURLToPath } from 'node:url'

export { DEMO_REEL, DEMO_SHOW, demoRecords, SECOND_REEL, secondRecords } from './show.js'
export { catalogue } from './synth/catalogue/index.js'
export { writeShelves } from './synth/writeShelves.js'
export { EVENTS, FPS, LEADER, PROGRAMME, SHOTS, type StoryEvent } from './picture/story.js'

/** The demo's movie, committed beside the script that draws it. */
export const DEMO_MOVIE = fileURLToPath(new URL('../media/reel1-cut3.mp4', import.meta.url))
