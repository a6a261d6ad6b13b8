export * from './api'
export * from './bring-in'
export * from './talk-events'
