export * from './bring-clip'
