export * from './camera-gaps'
export * from './check-film'
export * from './probe'
