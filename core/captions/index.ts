export * from './caption-box'
export * from './place-caption'
