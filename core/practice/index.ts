export * from './program'
export * from './speaker'
