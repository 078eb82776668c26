export * from './moved.js'
export * from './struck.js'
export * from './things.js'
export * from './weather.js'
