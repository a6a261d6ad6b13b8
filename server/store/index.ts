export * from './entry-files'
export * from './leavings'
export {
  allHere,
  digestKept,
  here,
  keep,
  keepCopiesSmall,
  putUnder,
  readKept,
  removeTree,
  sizeOf,
  stage,
  takenOver,
  trimCopies,
} from './local-copies'
export type { StagedFile } from './local-copies'
export * from './media-store'
export type { ByteRange, KeptFile, ObjectStore } from './object-store'
export * from './recording-files'
export { digestOf, digestOfFile, digestOfStream, keptSafe, safeFolder } from './safe-files'
export * from './segment-cache'
export { takeAllOver } from './take-over'
export type { TakenOver } from './take-over'
export { nameInStore, openStore, stores, workingFolder } from './stores'
