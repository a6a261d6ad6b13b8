export * from './starter-slides'
export * from './starters'
