export * from './file-choice'
export * from './remedy-words'
export * from './rule-names'
export * from './rules-draft'
