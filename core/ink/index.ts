export * from './colours'
export * from './outline'
