export * from './markdown-deck'
export * from './notes-file'
export * from './webm-frames'
export * from './webm-clock'
