export * from './composed'
export * from './context'
export * from './inset'
export * from './scene'
