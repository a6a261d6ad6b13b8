export * from './blocks'
export * from './pauses'
