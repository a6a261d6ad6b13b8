export * from './handout'
