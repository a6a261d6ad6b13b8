export * from './language-of'
