export * from './bounded'
export * from './run'
