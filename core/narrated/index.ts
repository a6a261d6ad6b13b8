export * from './narrated-visit'
