export * from './api'
export * from './bring-in'
