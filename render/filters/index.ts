export * from './filter-graph'
