export * from './tunes'
