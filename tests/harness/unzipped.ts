import { buffer } from 'node:stream/consumers'
import { fromBuffer } from 'yauzl'
import type { Entry, ZipFile } from 'yauzl'
import { readFile } from 'node:fs/promises'

const opened = (bytes: Buffer): Promise<ZipFile> =>
  new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
      if (error === null) resolve(zip)
      else reject(error)
    })
  })

const contentOf = (zip: ZipFile, entry: Entry): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => {
      if (error === null) buffer(stream).then(resolve, reject)
      else reject(error)
    })
  })

/** Names and contents of a zip. @param zipped its bytes, or where it lies */
export async function unzipped(zipped: Uint8Array | string): Promise<ReadonlyMap<string, Buffer>> {
  const zip = await opened(typeof zipped === 'string' ? await readFile(zipped) : Buffer.from(zipped))
  const files = new Map<string, Buffer>()
  await new Promise<void>((resolve, reject) => {
    zip.on('end', resolve)
    zip.on('error', reject)
    zip.on('entry', (entry: Entry) => {
      contentOf(zip, entry).then((content) => {
        files.set(entry.fileName, content)
        zip.readEntry()
      }, reject)
    })
    zip.readEntry()
  })
  return files
}
