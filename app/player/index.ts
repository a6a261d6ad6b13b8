export * from './clip-players'
export * from './media-slots'
export * from './stream'
