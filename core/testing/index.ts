export * from './algebra'
export * from './arbitrary'
export * from './make'
export * from './reference-talk'
