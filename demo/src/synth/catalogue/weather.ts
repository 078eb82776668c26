import * as v from '../voices/index.js'
import { entry, mono, wide, passing, rolling, row, sets, type DemoRecording, type Making } from './entry.js'

const WEATHER = 'Weather & Wires'

/** What is heard outside, and beds. */
export function weather(): DemoRecording[] {
  const b = (code: string, name: string, description: string, keywords: string, category: string, making: Making, peak?: number): DemoRecording =>
    entry(WEATHER, code, name, description, keywords, category, making, peak)
  return [
    b('RAIN', 'Rain on slate, wide', 'Steady rain on a slate roof and yard, outside', 'rain, slate, roof, weather, steady, outside', 'Weather', wide(v.rain(50, 1)), -16),
    b('RAIN', 'Rain on slate, inside', 'The same rain heard from a small room', 'rain, roof, inside, interior, muffled, room', 'Weather', wide(v.rain(50, 0.15)), -20),
    b('RAIN', 'Rain on window', 'Drops on panes, close', 'rain, window, glass, drops, inside', 'Weather', wide(v.rain(45, 0.5, 110)), -18),
    b('RAIN', 'Gutter drip', 'Slow drops in a gutter', 'drip, water, gutter, drops', 'Weather', row(v.bounce(5), 20, [0.8, 2]), -20),
    b('WIND', 'Wind over the cutting', 'Low wind with slow gusts', 'wind, gust, night, low, weather', 'Weather', wide(v.wind(45, 240)), -18),
    b('WIND', 'Draught under a door', 'Thin whistling draught', 'wind, draught, whistle, door, thin', 'Weather', mono(v.wind(40, 760)), -22),
    ...sets(3, (n) =>
      b(
        'THND',
        `Thunder ${['near', 'middle', 'far'][n - 1] ?? ''}`,
        'A crack and a roll over hills',
        'thunder, storm, roll, rumble, weather',
        'Weather',
        wide(v.thunder(n)),
        -6 - 3 * n,
      ),
    ),
    b('WIRE', 'Telegraph wires hum', 'Wires sing in the wind', 'wires, hum, telegraph, drone, tone', 'Tones', wide(v.wires(30, 96)), -20),
    b(
      'TRAN',
      'Goods train passes left to right',
      'Slow goods train, wheels over joints, passes from left to right',
      'train, pass, by, wheels, engine, railway, steam',
      'Trains',
      passing(v.train(12), -0.85, 0.85),
      -4,
    ),
    b('TRAN', 'Goods train, distant', 'The same train a field away', 'train, distant, far, wheels, railway', 'Trains', rolling(v.train(20)), -18),
    ...sets(2, (n) =>
      b(
        'WHIS',
        `Engine whistle ${n === 1 ? 'short' : 'long'}`,
        'Three-note engine whistle',
        'whistle, engine, train, steam, chime',
        'Trains',
        mono(v.whistle(n === 1 ? 0.8 : 2.2)),
        -8,
      ),
    ),
    b('ROOM', 'Room tone, signal box', 'Small wooden room at night, almost nothing', 'room tone, ambience, quiet, interior, night', 'Rooms', wide(v.wind(45, 110)), -34),
    b('ROOM', 'Room tone, waiting room', 'Larger, tiled, empty', 'room tone, ambience, quiet, interior, empty', 'Rooms', wide(v.wind(45, 180)), -36),
  ]
}
