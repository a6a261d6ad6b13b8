export * from './handout'
export * from './handout-apart'
