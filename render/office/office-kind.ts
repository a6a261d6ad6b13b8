import { createReadStream } from 'node:fs'
import { openPromise } from 'yauzl'
import { Refusal } from '@core/model'

/** Kinds of office decks, by what is in the file. */
export type OfficeKind = 'pptx' | 'odp' | 'ppt'

/** How files of the old kind begin ([MS-CFB], 2.2). */
const OLD = Buffer.from('d0cf11e0a1b11ae1', 'hex')
const wide = (text: string): Buffer => Buffer.from(text, 'utf16le')
/** Names of streams in them: that of slides, and that of a new file that is locked. */
const SLIDES = wide('PowerPoint Document')
const LOCKED = wide('EncryptedPackage')
/** Where names are looked for, in bytes. */
const LOOKED_AT = 64 * 1_048_576

/** Which of some names stand in an old file. */
async function namesIn(path: string, names: readonly Buffer[]): Promise<readonly boolean[]> {
  const found = names.map(() => false)
  const longest = Math.max(...names.map((name) => name.length))
  let before = Buffer.alloc(0)
  for await (const chunk of createReadStream(path, { end: LOOKED_AT, highWaterMark: 1_048_576 })) {
    const bytes = Buffer.concat([before, chunk as Buffer])
    for (const [n, name] of names.entries()) found[n] ||= bytes.includes(name)
    if (found.some((one) => one)) break
    before = bytes.subarray(-longest)
  }
  return found
}

async function oldKind(path: string): Promise<OfficeKind> {
  const [slides = false, locked = false] = await namesIn(path, [SLIDES, LOCKED])
  if (locked) throw new Refusal('unreadable', 'This office file is locked with a password. Save a copy without one and bring that.')
  if (slides) return 'ppt'
  throw new Refusal('unreadable', 'This old office file holds no slides. Bring a deck, or export this as a PDF.')
}

/** The name of a type of OpenDocument that an archive says it is (OpenDocument 1.3, part 2, 3.3). */
const OPEN_DOCUMENT = /mimetypeapplication\/vnd\.oasis\.opendocument\.([a-z-]+)/

/** Whether an archive lists its parts as office files do (ISO/IEC 29500-2). */
async function listsParts(path: string): Promise<boolean> {
  const zip = await openPromise(path, { lazyEntries: true, autoClose: false }).catch(() => null)
  if (zip === null) return false
  try {
    for await (const entry of zip.eachEntry()) if (entry.fileName === '[Content_Types].xml') return true
    return false
  } catch {
    return false
  } finally {
    zip.close()
  }
}

/**
 * Which kind of office deck a file is; null when it is none.
 * @param head its first bytes
 * @throws Refusal when it is an office file that cannot be a deck, or is locked
 */
export async function officeKindOf(path: string, head: Buffer): Promise<OfficeKind | null> {
  if (head.subarray(0, OLD.length).equals(OLD)) return await oldKind(path)
  if (head.toString('latin1', 0, 4) !== 'PK\x03\x04') return null
  const kind = OPEN_DOCUMENT.exec(head.toString('latin1'))?.[1]
  if (kind !== undefined) {
    if (kind.startsWith('presentation')) return 'odp'
    throw new Refusal('unreadable', 'This office file holds no slides. Bring a deck, or export this as a PDF.')
  }
  return (await listsParts(path)) ? 'pptx' : null
}
