export * from './language-name'
export * from './language-of'
