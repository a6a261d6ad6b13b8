import { createWriteStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { here } from '@server/store'

/** A file that goes into an archive: one of the disk or of the store, or some bytes. */
export type ZipEntry = { readonly name: string } & ({ readonly path: string } | { readonly bytes: Buffer | string })

/** Moving pictures, sound and pictures are packed already. */
const PACKED = /\.(mp4|webm|m4a|mp3|jpg|jpeg|png|webp|pptx|docx|zip)$/i

/** Writes files into a zip, in a folder of their own (ZIP64 where it is large). */
export async function zipInto(out: string, folder: string, entries: readonly ZipEntry[], signal: AbortSignal): Promise<void> {
  const zip = new ZipFile()
  for (const entry of entries) {
    const compress = !PACKED.test(entry.name)
    const name = `${folder}/${entry.name}`
    if ('path' in entry) zip.addFile(await here(entry.path), name, { compress })
    else zip.addBuffer(typeof entry.bytes === 'string' ? Buffer.from(entry.bytes) : entry.bytes, name, { compress })
  }
  zip.end()
  // What yazl calls a stream is one of Node's.
  await pipeline(zip.outputStream as Readable, createWriteStream(out, { mode: 0o600 }), { signal })
}
