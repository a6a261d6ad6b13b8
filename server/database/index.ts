export * from './here'
export * from './connect'
export type * from './tables'
export type * from './sharing-tables'
