import { PLACES, type Effect, type Settings } from '../reel/inserts.js'
import { PLACE_SPECS } from './place/places.js'

const FLAT: Settings<'equaliser'> = {
  highPass: 0,
  lowHz: 120,
  lowDb: 0,
  firstHz: 400,
  firstDb: 0,
  firstQ: 1,
  secondHz: 2500,
  secondDb: 0,
  secondQ: 1,
  highHz: 8000,
  highDb: 0,
  lowPass: 0,
}

/** Settings that ship with Yodel, by kind and name; the first of a kind is what a new one has. */
export const PRESETS: {
  readonly [E in Effect]: readonly { readonly name: string; readonly settings: Settings<E> }[]
} = {
  equaliser: [
    { name: 'Flat', settings: FLAT },
    { name: 'Rumble out', settings: { ...FLAT, highPass: 90 } },
    { name: 'Hiss down', settings: { ...FLAT, highHz: 7000, highDb: -6, lowPass: 14_000 } },
    { name: 'Heavier', settings: { ...FLAT, lowHz: 140, lowDb: 5, firstHz: 450, firstDb: -2 } },
    { name: 'Edge', settings: { ...FLAT, secondHz: 3400, secondDb: 4, secondQ: 0.9, highDb: 2 } },
    {
      name: 'Far off',
      settings: { ...FLAT, highPass: 120, firstHz: 600, firstDb: 2, highHz: 4000, highDb: -8, lowPass: 9000 },
    },
    { name: 'Behind a door', settings: { ...FLAT, highPass: 60, firstHz: 250, firstDb: 3, lowPass: 900 } },
    {
      name: 'Down the line',
      settings: { ...FLAT, highPass: 320, firstHz: 1100, firstDb: 5, firstQ: 0.8, lowPass: 3300 },
    },
    {
      name: 'Small loudspeaker',
      settings: {
        ...FLAT,
        highPass: 240,
        firstHz: 900,
        firstDb: 3,
        secondHz: 3000,
        secondDb: 3,
        lowPass: 6500,
      },
    },
  ],
  compressor: [
    { name: 'Gentle', settings: { threshold: -24, ratio: 2, attack: 15, release: 150, knee: 8, makeUp: 0 } },
    {
      name: 'Even steps',
      settings: { threshold: -28, ratio: 3, attack: 4, release: 90, knee: 6, makeUp: 3 },
    },
    {
      name: 'Steady bed',
      settings: { threshold: -32, ratio: 2.5, attack: 40, release: 600, knee: 12, makeUp: 3 },
    },
    {
      name: 'Blow held back',
      settings: { threshold: -18, ratio: 6, attack: 1, release: 120, knee: 3, makeUp: 0 },
    },
  ],
  limiter: [
    { name: 'At -1', settings: { ceiling: -1, release: 80 } },
    { name: 'At -3', settings: { ceiling: -3, release: 120 } },
    { name: 'At -10', settings: { ceiling: -10, release: 200 } },
  ],
  reverb: [
    { name: 'Furnished room', settings: { room: 'parlour', wet: -14, dry: 0, preDelay: 0 } },
    { name: 'Cabin of a car', settings: { room: 'cabin', wet: -8, dry: 0, preDelay: 0 } },
    { name: 'Washroom', settings: { room: 'tiles', wet: -11, dry: 0, preDelay: 0 } },
    { name: 'Corridor', settings: { room: 'corridor', wet: -12, dry: 0, preDelay: 0 } },
    { name: 'Corridor, from its end', settings: { room: 'corridor', wet: -3, dry: -14, preDelay: 10 } },
    { name: 'Stairwell', settings: { room: 'stairs', wet: -12, dry: 0, preDelay: 8 } },
    { name: 'Station hall', settings: { room: 'hall', wet: -13, dry: 0, preDelay: 20 } },
    { name: 'Stone nave', settings: { room: 'nave', wet: -12, dry: 0, preDelay: 25 } },
    { name: 'Valley', settings: { room: 'valley', wet: -15, dry: 0, preDelay: 120 } },
  ],
  delay: [
    { name: 'One slap', settings: { time: 110, feedback: 0, wet: -9, lowPass: 6000 } },
    { name: 'Wall across the yard', settings: { time: 340, feedback: 0.2, wet: -14, lowPass: 3500 } },
    { name: 'Public address', settings: { time: 190, feedback: 0.35, wet: -8, lowPass: 4000 } },
    { name: 'Dream', settings: { time: 480, feedback: 0.7, wet: -8, lowPass: 5000 } },
  ],
  place: PLACES.map((place) => {
    const { name, distance } = PLACE_SPECS[place]
    return { name, settings: { place, amount: 1, size: 1, distance, broken: 0.5 } }
  }),
}
