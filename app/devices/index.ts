export * from './choice'
export * from './doubts'
export * from './latency'
