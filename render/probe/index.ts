export * from './check-film'
export * from './probe'
