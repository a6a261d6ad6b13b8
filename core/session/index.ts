export * from './recording'
export * from './screen'
export * from './screens-of'
