export * from './landing'
export * from './planned'
