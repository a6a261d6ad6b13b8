export { followers } from './followers'
export * from './part-of'
export * from './read-recording'
export type { Reading } from './reading'
