export * from './media-slots'
export * from './stream'
