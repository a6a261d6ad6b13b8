export * from './assets-of-slides'
export * from './edit'
export * from './invert'
export * from './page-labels'
