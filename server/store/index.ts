export * from './entry-files'
export * from './leavings'
export * from './media-store'
export * from './segment-cache'
