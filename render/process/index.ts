export * from './run'
