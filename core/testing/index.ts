export * from './arbitrary'
export * from './make'
