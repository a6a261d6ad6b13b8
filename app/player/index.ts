export * from './media-slots'
