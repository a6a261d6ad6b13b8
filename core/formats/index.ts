export * from './markdown-deck'
export * from './notes-file'
