export * from './colours'
export * from './hit'
export * from './outline'
