import { constants } from 'node:fs'
import { access } from 'node:fs/promises'
import { delimiter, join } from 'node:path'
import { primaryOf } from '@core/language'
import { ACOUSTIC_MODEL, GENERAL_DICTIONARY, GENERAL_MODEL } from './dictionary'

/** Programs that hearing needs. */
const PROGRAMS = ['pocketsphinx_batch', 'espeak-ng']

const isThere = (path: string, mode: number): Promise<boolean> =>
  access(path, mode).then(
    () => true,
    () => false,
  )

async function isOnPath(program: string): Promise<boolean> {
  const folders = (process.env['PATH'] ?? '').split(delimiter)
  const found = await Promise.all(folders.map((folder) => isThere(join(folder, program), constants.X_OK)))
  return found.includes(true)
}

/** Whether the recogniser that is installed here understands a language. @param language BCP 47 tag */
export async function modelFor(language: string): Promise<boolean> {
  if (primaryOf(language) !== 'en') return false
  const files = [ACOUSTIC_MODEL, GENERAL_MODEL, GENERAL_DICTIONARY].map((path) => isThere(path, constants.R_OK))
  const found = await Promise.all([...files, ...PROGRAMS.map(isOnPath)])
  return found.every(Boolean)
}
