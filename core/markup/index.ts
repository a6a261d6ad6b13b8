export * from './blocks'
export * from './pauses'
export * from './spoken-lines'
