import { fileName, freeName } from '@core/plan'

const NOTHING = { talk: '', date: '', lines: '', slide: '', number: '' }
const ENDING = /\.[0-9a-z]{1,8}$/i

/**
 * Names for files of one folder, as they were called or nearly so: without signs that some file system takes in no name, and no two
 * alike, also where capitals and small letters are one.
 * @param names as they were called, with their endings
 * @returns as many names in the same order
 */
export function namesInFolder(names: readonly string[]): readonly string[] {
  const taken = new Set<string>()
  return names.map((name) => {
    const ending = (ENDING.exec(name)?.[0] ?? '').toLowerCase()
    const stem = fileName('{name}', NOTHING, { name: name.slice(0, name.length - ending.length) })
    return freeName(stem, ending, taken)
  })
}
