export * from './apart'
export * from './bounded'
export * from './held'
export * from './run'
