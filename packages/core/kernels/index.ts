// The innermost loops of the mixer, for WebAssembly: several numbers at once. What they are for is said where they are called, in packages/core/src/audio and treatment.
export * from './memory'
export * from './fold'
export * from './mix'
export * from './sections'
export * from './device'
export * from './halfBand'
export * from './room'
