export * from './edit'
export * from './length'
export * from './pieces-of-take'
export * from './visits'
