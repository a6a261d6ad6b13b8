export * from './cameras-of'
export * from './screening-parts'
