export * from './clip-players'
export * from './media-slots'
export * from './played-level'
export * from './stream'
