export * from './face-print'
export * from './picture-anchor'
