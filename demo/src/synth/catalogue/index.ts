import { boots } from './boots.js'
import { boxes } from './boxes.js'
import { designed } from './designed.js'
import { countAnew, type DemoRecording } from './entry.js'
import { more } from './more.js'
import { trains } from './trains.js'
import { weather } from './weather.js'

export type { DemoRecording, Made } from './entry.js'

/** All recordings of the demo's shelves. Their order numbers and seeds them: new ones are added at the end. */
export function catalogue(): DemoRecording[] {
  countAnew()
  return [...boxes(), ...boots(), ...weather(), ...trains(), ...designed(), ...more()]
}
