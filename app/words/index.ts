export * from './duration'
export * from './moment'
export * from './size'
export * from './layouts'
