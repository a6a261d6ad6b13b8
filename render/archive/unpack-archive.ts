import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { openPromise } from 'yauzl'
import { Refusal } from '@core/model'

/** What the unpacking program is asked, on its standard input. */
export interface UnpackArchiveOrder {
  readonly path: string
  /** Folder that files are unpacked into. */
  readonly out: string
  /** Bytes that may come out. */
  readonly most: number
}

/** What it answers, a line of JSON each. */
export type ArchiveMessage =
  | { readonly kind: 'plan'; readonly files: number }
  /** @param name within the archive, without the folder that all of it stands in */
  | { readonly kind: 'file'; readonly name: string; readonly bytes: number; readonly digest: string }
  | { readonly kind: 'done' }
  | { readonly kind: 'refused'; readonly code: Refusal['code']; readonly sentence: string }

const MOST_ENTRIES = 200_000
/** What a talk is made of again; everything else in an archive is for people and other programs. */
const WANTED = /^(talk\.json|deck\/[^/\\]{1,200}|recordings\/[0-9a-z-]{1,40}\/[0-9a-z-]{1,40}\/[0-9a-z.-]{1,60})$/

const withoutFolder = (name: string): string => name.slice(name.indexOf('/') + 1)

/**
 * Unpacks an archive of a talk. A file is only ever written where its kind belongs.
 * @throws Refusal when it is damaged, leads outside of itself, or unpacks to too much
 */
export async function unpackArchive({ path, out, most }: UnpackArchiveOrder, tell: (message: ArchiveMessage) => void): Promise<void> {
  let bytes = 0
  const archive = await openPromise(path, { lazyEntries: true, validateEntrySizes: true }).catch(() => {
    throw new Refusal('unreadable', 'This archive is damaged or was cut short, and cannot be opened. Save it again and bring that.')
  })
  if (archive.entryCount > MOST_ENTRIES) throw new Refusal('too-many', 'This archive holds more files than any talk has.')
  tell({ kind: 'plan', files: archive.entryCount })
  try {
    for await (const entry of archive.eachEntry()) {
      const name = withoutFolder(entry.fileName)
      if (!WANTED.test(name) || entry.isEncrypted()) continue
      const hash = createHash('sha256')
      let own = 0
      const counted = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          bytes += chunk.length
          own += chunk.length
          hash.update(chunk)
          if (bytes > most) done(new Refusal('too-large', 'This archive unpacks to more than one talk may hold here.'))
          else done(null, chunk)
        },
      })
      const file = join(out, name)
      await mkdir(dirname(file), { recursive: true })
      await pipeline(await archive.openReadStreamPromise(entry), counted, createWriteStream(file, { mode: 0o600 }))
      tell({ kind: 'file', name, bytes: own, digest: hash.digest('hex') })
    }
  } catch (error) {
    if (error instanceof Refusal) throw error
    throw new Refusal(
      'unreadable',
      'This archive is damaged, was cut short, or names files outside of itself. Save it again and bring that.',
    )
  } finally {
    archive.close()
  }
  tell({ kind: 'done' })
}
