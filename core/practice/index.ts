export * from './speaker'
