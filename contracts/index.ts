export * from './fault'
export * from './film'
export * from './views'
export * from './wire-edit'
