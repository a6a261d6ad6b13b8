export * from './misspelt'
export * from './words-to-spell'
