import { createWriteStream } from 'node:fs'
import { join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { orderBy } from 'natural-orderby'
import { openPromise } from 'yauzl'
import { Refusal } from '@core/model'

/** A file out of an archive. */
export interface Unpacked {
  readonly path: string
  /** Its own file name in the folder it was unpacked into. */
  readonly file: string
  /** What the archive calls it, folders and all. */
  readonly name: string
}

const MOST_ENTRIES = 3000
/** What a deck can be made of; anything else in an archive stays in it. */
const WANTED = /\.(pdf|png|jpe?g|webp|md|markdown|txt|pp[ts]x?m?|potx?m?|od[pt]|otp)$/i
const IGNORED = /(^|\/)(\.|__MACOSX\/)/

/** What stands in an archive of a whole talk alone. */
const OF_A_TALK = /^[^/]+\/talk\.json$/
const WHOLE_TALK = 'This is an archive of a whole talk. Bring it in on the page “Talks”, with “An archive of a talk”.'

const tooMuch = (most: number): Refusal =>
  new Refusal(
    'too-large',
    `This archive unpacks to more than ${String(Math.round(most / 1_048_576))} MB, which is more than can be taken in. Bring ` +
      `the deck in parts.`,
  )

/**
 * Unpacks what a deck can be made of, in the order a person would count the names. What an entry calls itself decides
 * nothing about where it is written.
 * @param most bytes that may come out; counted as they come, since archives can say anything of themselves
 * @returns the files, and how many bytes they have together
 * @throws Refusal when it is damaged, locked, or unpacks to too much
 */
export async function unpack(
  path: string,
  folder: string,
  prefix: string,
  most: number,
): Promise<{ readonly files: readonly Unpacked[]; readonly bytes: number }> {
  const files: Unpacked[] = []
  let bytes = 0
  const archive = await openPromise(path, { lazyEntries: true, validateEntrySizes: true }).catch(() => {
    throw new Refusal('unreadable', 'This archive is damaged and cannot be opened. Pack it again and bring that.')
  })
  if (archive.entryCount > MOST_ENTRIES)
    throw new Refusal('too-many', `This archive holds ${String(archive.entryCount)} files; up to ${String(MOST_ENTRIES)} can be taken in.`)
  try {
    for await (const entry of archive.eachEntry()) {
      if (OF_A_TALK.test(entry.fileName)) throw new Refusal('unreadable', WHOLE_TALK)
      if (!WANTED.test(entry.fileName) || IGNORED.test(entry.fileName)) continue
      if (entry.isEncrypted())
        throw new Refusal('unreadable', 'This archive is locked with a password. Pack it without one and bring that.')
      const file = `${prefix}-${String(files.length)}`
      const counted = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          bytes += chunk.length
          if (bytes > most) done(tooMuch(most))
          else done(null, chunk)
        },
      })
      await pipeline(await archive.openReadStreamPromise(entry), counted, createWriteStream(join(folder, file)))
      files.push({ path: join(folder, file), file, name: entry.fileName })
    }
  } catch (error) {
    if (error instanceof Refusal) throw error
    throw new Refusal('unreadable', 'This archive is damaged and cannot be unpacked. Pack it again and bring that.')
  } finally {
    archive.close()
  }
  if (files.length === 0)
    throw new Refusal('unreadable', 'There is nothing in this archive that a deck can be made of: no PDF, office deck, picture or text.')
  return { files: orderBy(files, [(one) => one.name]), bytes }
}
