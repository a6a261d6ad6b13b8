export * from './landing'
export * from './planned'
export * from './share-out'
export * from './words'
