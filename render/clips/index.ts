export * from './bring-clip'
export { type BroughtClip } from './clip-file'
export * from './make-captured'
export * from './png-size'
