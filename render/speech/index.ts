export * from './listen'
export * from './listen-by-model'
export * from './model-for'
