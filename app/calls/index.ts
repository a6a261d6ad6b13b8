export * from './call-draft'
export * from './entry-words'
