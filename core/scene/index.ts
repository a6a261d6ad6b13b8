export * from './change'
export * from './scene-at'
export * from './search'
export * from './track'
