export * from './filter-graph'
export * from './colours'
