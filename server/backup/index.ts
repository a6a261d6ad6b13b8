export { backUp } from './backup'
export { backupsIn, forgetOld, headOf } from './content'
export { NotRestored, checkBackup, fillDatabase, layFiles } from './restore'
