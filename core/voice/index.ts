export * from './level'
export * from './peaks'
