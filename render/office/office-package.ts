import { createWriteStream } from 'node:fs'
import { buffer } from 'node:stream/consumers'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { posix } from 'node:path'
import { openPromise } from 'yauzl'
import type { Entry, ZipFile } from 'yauzl'
import { ZipFile as ZipWriter } from 'yazl'
import { Refusal } from '@core/model'

/** Most parts of an office file, and most bytes of one that is read as XML. */
const MOST_PARTS = 30_000
const MOST_XML = 64 * 1_048_576

const damaged = (): Refusal =>
  new Refusal(
    'unreadable',
    'This office file is damaged and cannot be opened. Save it again in the program it was made with, and bring that.',
  )

const tooMuch = (most: number): Refusal =>
  new Refusal(
    'too-large',
    `This office file unpacks to more than ${String(Math.round(most / 1_048_576))} MB, which is more than can be taken in. ` +
      'Bring it in parts, or with smaller pictures.',
  )

/** Resolves a target that a part names, as RFC 3986 does with paths. @returns name of a part, without a slash before it */
export const resolved = (part: string, target: string): string =>
  posix.normalize(target.startsWith('/') ? target : posix.join('/', posix.dirname(part), target)).replace(/^\/+/, '')

/** An office file: parts in an archive (ISO/IEC 29500-2; OpenDocument 1.3, part 2). Parts are read when they are asked for. */
export class OfficePackage {
  readonly #zip: ZipFile
  readonly #entries: ReadonlyMap<string, Entry>
  readonly #most: number
  #read = 0

  private constructor(zip: ZipFile, entries: ReadonlyMap<string, Entry>, most: number) {
    this.#zip = zip
    this.#entries = entries
    this.#most = most
  }

  /**
   * Opens an office file.
   * @param most bytes that may come out of it, all parts together
   * @throws Refusal when it is damaged, locked or has too many parts
   */
  static async open(path: string, most: number): Promise<OfficePackage> {
    const zip = await openPromise(path, { lazyEntries: true, validateEntrySizes: true, autoClose: false }).catch(() => {
      throw damaged()
    })
    if (zip.entryCount > MOST_PARTS) {
      zip.close()
      throw new Refusal('too-many', `This office file has ${String(zip.entryCount)} parts, more than can be taken in.`)
    }
    const entries = new Map<string, Entry>()
    try {
      for await (const entry of zip.eachEntry()) {
        if (entry.isEncrypted())
          throw new Refusal('unreadable', 'This office file is locked with a password. Save a copy without one and bring that.')
        if (!entry.fileName.endsWith('/')) entries.set(entry.fileName, entry)
      }
    } catch (error) {
      zip.close()
      if (error instanceof Refusal) throw error
      throw damaged()
    }
    return new OfficePackage(zip, entries, most)
  }

  get names(): readonly string[] {
    return [...this.#entries.keys()]
  }

  has(name: string): boolean {
    return this.#entries.has(name)
  }

  /** @throws Refusal when it is damaged or more comes out than may */
  async read(name: string): Promise<Buffer> {
    const counted = await this.#open(name)
    return await buffer(counted).catch((error: unknown) => {
      throw error instanceof Refusal ? error : damaged()
    })
  }

  /** @throws Refusal when it is damaged or more comes out than may */
  async extract(name: string, path: string): Promise<void> {
    await pipeline(await this.#open(name), createWriteStream(path)).catch((error: unknown) => {
      throw error instanceof Refusal ? error : damaged()
    })
  }

  /** Text of a part in UTF-8 or UTF-16, as its first bytes say. @throws Refusal when it is missing, damaged or too long */
  async text(name: string): Promise<string> {
    const entry = this.#entries.get(name)
    if (entry === undefined) throw damaged()
    if (entry.uncompressedSize > MOST_XML) throw tooMuch(MOST_XML)
    const bytes = await this.read(name)
    const wide = bytes[0] === 0xff && bytes[1] === 0xfe
    return new TextDecoder(wide ? 'utf-16le' : 'utf-8').decode(bytes)
  }

  close(): void {
    this.#zip.close()
  }

  async #open(name: string): Promise<Transform> {
    const entry = this.#entries.get(name)
    if (entry === undefined) throw damaged()
    const stream = await this.#zip.openReadStreamPromise(entry).catch(() => {
      throw damaged()
    })
    const counted = new Transform({
      transform: (chunk: Buffer, _encoding, done) => {
        this.#read += chunk.length
        if (this.#read > this.#most) done(tooMuch(this.#most))
        else done(null, chunk)
      },
    })
    stream.on('error', (error: Error) => counted.destroy(error))
    return stream.pipe(counted)
  }
}

/** A part to be written: its bytes, or the same as in the file that was read. */
export interface WrittenPart {
  readonly name: string
  readonly bytes: Buffer | 'as it is'
  /** OpenDocument wants its first part stored as it is. */
  readonly stored?: boolean
}

/** A part that is XML. */
export const xmlPart = (name: string, text: string): WrittenPart => ({ name, bytes: Buffer.from(text, 'utf8') })

/** What is packed by itself is not packed once more. */
const PACKED = /\.(png|jpe?g|gif|webp)$/i

/** Writes an office file of parts, in this order. */
export async function writePackage(
  from: OfficePackage,
  parts: AsyncIterable<WrittenPart> | Iterable<WrittenPart>,
  path: string,
): Promise<void> {
  const zip = new ZipWriter()
  const written = pipeline(zip.outputStream, createWriteStream(path))
  // A part that cannot be read ends the writing; whoever awaits it below hears of that.
  written.catch(() => undefined)
  for await (const { name, bytes, stored } of parts) {
    const content = bytes === 'as it is' ? await from.read(name) : bytes
    zip.addBuffer(content, name, { compressionLevel: stored === true || PACKED.test(name) ? 0 : 1 })
  }
  zip.end()
  await written
}
