import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { readFile, stat } from 'node:fs/promises'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import {
  CopyObjectCommand,
  DeleteObjectCommand,
  GetObjectCommand,
  HeadBucketCommand,
  HeadObjectCommand,
  PutObjectCommand,
  S3Client,
  S3ServiceException,
  paginateListObjectsV2,
} from '@aws-sdk/client-s3'
import type { GetObjectCommandOutput, PutObjectCommandInput } from '@aws-sdk/client-s3'
import { Upload } from '@aws-sdk/lib-storage'
import type { ObjectsPlace } from '@server/settings'
import { digestOf, digestOfFile } from './safe-files'
import type { ByteRange, KeptFile, ObjectStore } from './object-store'

/** A file up to this size is sent at once, with a digest that the service holds it against; in bytes. */
const AT_ONCE = 16 * 1_048_576
/** Larger ones are sent in parts of this size, a few at a time; in bytes. */
const PART = 16 * 1_048_576
const PARTS_AT_A_TIME = 3

/** A service copies objects up to this size by itself (Amazon S3, CopyObject); in bytes. */
const LARGEST_COPY = 5 * 1024 ** 3

/** What is sent is held against this when it comes back. */
const DIGEST = 'sha256'

const isMissing = (error: unknown): boolean => error instanceof S3ServiceException && error.$metadata.httpStatusCode === 404

/** An answer, or null when there is no such object. */
async function orNull<Answer>(asked: Promise<Answer>): Promise<Answer | null> {
  try {
    return await asked
  } catch (error) {
    if (isMissing(error)) return null
    throw error
  }
}

/** Objects that a service keeps which speaks as S3 does. */
export class S3Store implements ObjectStore {
  readonly #client: S3Client
  readonly #bucket: string
  readonly #prefix: string
  readonly #largestCopy: number

  /** @param largestCopy in bytes; what is larger goes through this machine when its name changes */
  constructor({ bucket, prefix, endpoint, region, key, secret }: ObjectsPlace, largestCopy = LARGEST_COPY) {
    this.#largestCopy = largestCopy
    this.#bucket = bucket
    this.#prefix = prefix
    // This version of the package runs here; which Node a later one asks for is known when it is installed.
    process.env['AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED'] = 'true'
    this.#client = new S3Client({
      region,
      ...(endpoint === null ? {} : { endpoint, forcePathStyle: true }),
      credentials: { accessKeyId: key, secretAccessKey: secret },
      requestHandler: { connectionTimeout: 5000, socketTimeout: 60_000 },
      // Many services that speak like this one know the older digests only.
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
    })
  }

  readonly #of = (name: string): { readonly Bucket: string; readonly Key: string } => ({ Bucket: this.#bucket, Key: this.#prefix + name })

  async put(name: string, path: string): Promise<KeptFile> {
    const { size } = await stat(path)
    const small = size <= AT_ONCE ? await readFile(path) : null
    const digest = small === null ? await digestOfFile(path) : digestOf(small)
    const object = { ...this.#of(name), Metadata: { [DIGEST]: digest } }
    if (small !== null) {
      const ContentMD5 = createHash('md5').update(small).digest('base64')
      await this.#client.send(new PutObjectCommand({ ...object, Body: small, ContentLength: size, ContentMD5 }))
    } else {
      await this.#putInParts({ ...object, Body: createReadStream(path) })
    }
    const head = await this.#head(name)
    if (head?.kept.bytes !== size || head.digest !== digest) throw new Error(`${name} is not kept as it was given`)
    return head.kept
  }

  async #putInParts(params: PutObjectCommandInput): Promise<void> {
    await new Upload({ client: this.#client, params, partSize: PART, queueSize: PARTS_AT_A_TIME }).done()
  }

  async #head(name: string): Promise<{ readonly kept: KeptFile; readonly digest: string | null } | null> {
    const found = await orNull(this.#client.send(new HeadObjectCommand(this.#of(name))))
    if (found === null) return null
    return { kept: keptOf(name, found.ContentLength, found.LastModified), digest: found.Metadata?.[DIGEST] ?? null }
  }

  async find(name: string): Promise<KeptFile | null> {
    return (await this.#head(name))?.kept ?? null
  }

  async #get(name: string, range?: ByteRange): Promise<{ readonly answer: GetObjectCommandOutput; readonly body: Readable } | null> {
    const Range = range === undefined ? undefined : `bytes=${String(range.start)}-${String(range.end)}`
    const answer = await orNull(this.#client.send(new GetObjectCommand({ ...this.#of(name), Range })))
    if (answer === null) return null
    if (!(answer.Body instanceof Readable)) throw new Error(`${name} came without what it holds`)
    return { answer, body: answer.Body }
  }

  async fetch(name: string, path: string): Promise<KeptFile | null> {
    const found = await this.#get(name)
    if (found === null) return null
    const hash = createHash('sha256')
    let bytes = 0
    const counted = new Transform({
      transform(chunk: Buffer, _, done) {
        hash.update(chunk)
        bytes += chunk.length
        done(null, chunk)
      },
    })
    await pipeline(found.body, counted, createWriteStream(path))
    const { ContentLength, LastModified, Metadata } = found.answer
    const said = Metadata?.[DIGEST]
    if (bytes !== ContentLength || (said !== undefined && said !== hash.digest('hex')))
      throw new Error(`${name} did not come as it was kept: the object store holds something else, or it changed on the way`)
    return keptOf(name, ContentLength, LastModified)
  }

  async read(name: string, range?: ByteRange): Promise<Readable | null> {
    return (await this.#get(name, range))?.body ?? null
  }

  async *list(prefix: string): AsyncGenerator<KeptFile> {
    const pages = paginateListObjectsV2({ client: this.#client }, { Bucket: this.#bucket, Prefix: this.#prefix + prefix })
    for await (const { Contents = [] } of pages)
      for (const { Key = '', Size, LastModified } of Contents) yield keptOf(Key.slice(this.#prefix.length), Size, LastModified)
  }

  /** Not every service can copy a large object in parts; each can be given one. */
  async #copyThroughHere(from: string, to: string): Promise<void> {
    const found = await this.#get(from)
    if (found === null) throw new Error(`${from} is not kept any more`)
    await this.#putInParts({ ...this.#of(to), Metadata: found.answer.Metadata, Body: found.body })
  }

  async #copy(from: string, to: string, bytes: number): Promise<void> {
    if (bytes > this.#largestCopy) {
      await this.#copyThroughHere(from, to)
      return
    }
    const { Bucket, Key } = this.#of(from)
    await this.#client.send(new CopyObjectCommand({ ...this.#of(to), CopySource: encodeURI(`${Bucket}/${Key}`) }))
  }

  async rename(from: string, to: string): Promise<KeptFile> {
    const was = await this.#head(from)
    if (was === null) throw new Error(`${from} is not kept`)
    await this.#copy(from, to, was.kept.bytes)
    const now = await this.#head(to)
    if (now === null || was.kept.bytes !== now.kept.bytes || was.digest !== now.digest) throw new Error(`${to} is not kept as ${from} was`)
    await this.remove(from)
    return now.kept
  }

  async remove(name: string): Promise<void> {
    await this.#client.send(new DeleteObjectCommand(this.#of(name)))
  }

  async isWritable(): Promise<boolean> {
    await this.#client.send(new HeadBucketCommand({ Bucket: this.#bucket }))
    await this.#client.send(new PutObjectCommand({ ...this.#of('probe.part'), Body: Buffer.alloc(0), ContentLength: 0 }))
    return true
  }
}

/** Headers name whole seconds, lists may name parts of them: whole ones are the same in both. */
const keptOf = (name: string, bytes: number | undefined, changed: Date | undefined): KeptFile => ({
  name,
  bytes: bytes ?? 0,
  changed: Math.floor((changed?.getTime() ?? 0) / 1000) * 1000,
})
