export { writeShelves } from './synth/writeShelves.js'
