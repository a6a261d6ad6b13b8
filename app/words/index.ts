export * from './duration'
export * from './moment'
export * from './size'
