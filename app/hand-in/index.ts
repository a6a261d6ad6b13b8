export * from './file-choice'
export * from './remedy-words'
export * from './rules-draft'
