export * from './face-media-part'
export * from './sound-part'
export type { Fragment } from './fragment'
