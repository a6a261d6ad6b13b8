export * from './filter-graph'
export * from './light'
export * from './colours'
