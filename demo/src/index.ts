import { fileURLToPath } from 'node:url'

export {
  AFTER_TURNOVER,
  DEMO_REEL,
  DEMO_SHOW,
  demoRecords,
  REEL_TWO,
  reelTwoRecords,
  SECOND_REEL,
  secondRecords,
} from './show.js'
export { CALL, CALL_REEL, callRecords, COAT } from './call.js'
export { CROWD_REEL, CROWD_SHOW, crowdRecords } from './crowd.js'
export { DEMO_PLAN } from './stacks.js'
export { demoPools } from './pools.js'
export { catalogue } from './synth/catalogue/index.js'
export { writeShelves } from './synth/writeShelves.js'
export { EVENTS, FPS, LEADER, PROGRAMME, REEL_1, REEL_2, type StoryEvent } from './picture/story.js'

/** The movie of reel 1, committed beside the script that draws it. */
export const DEMO_MOVIE = fileURLToPath(new URL('../media/reel1-cut3.mp4', import.meta.url))
/** The movie of reel 2. */
export const MOVIE_TWO = fileURLToPath(new URL('../media/reel2-cut1.mp4', import.meta.url))
