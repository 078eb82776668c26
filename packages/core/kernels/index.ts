// The innermost loops of the mixer, for WebAssembly: several numbers at once. What they mean is said in packages/core/src/treatment.
export * from './memory'
export * from './sections'
export * from './device'
export * from './halfBand'
export * from './room'
