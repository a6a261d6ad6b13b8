export * from './fonts'
