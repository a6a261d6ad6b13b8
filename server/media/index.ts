export * from './backdrop-films'
export * from './cameras-of'
export * from './screening-parts'
export * from './treated-voices'
