export * from './api'
export * from './bring-in'
export * from './one-at-a-time'
export * from './talk-events'
