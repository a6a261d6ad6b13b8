export * from './content'
export * from './place-inset'
