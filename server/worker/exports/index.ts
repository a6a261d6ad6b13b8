export * from './make-export'
