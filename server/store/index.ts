export * from './leavings'
export * from './media-store'
