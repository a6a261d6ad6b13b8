export * from './narrated-deck'
export * from './visit-media'
