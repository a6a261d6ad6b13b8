export * from './media-store'
