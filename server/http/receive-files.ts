import { createHash, randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import busboy from 'busboy'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import type { Queries } from '@server/database'
import { stageUploads } from '@server/domain'
import type { StagedUpload, Uploaded } from '@server/domain'
import { settings } from '@server/settings'
import { roomForUpload, uploadFolder } from '@server/store'
import { announcedBytes, letPass } from './read-capped'

const MOST_FILES = 500
/** What a form has besides its files, for each of them and once, in bytes. */
const FORM_BYTES = 2000

const plainName = (name = ''): string => (name.split(/[/\\]/).at(-1) ?? '').replace(/\p{Cc}/gu, '').slice(0, 200) || 'file'

/** What is being received: everything that was begun is known here, so that it can be ended. */
class Receiving {
  readonly #limit: number
  readonly #paths: string[] = []
  readonly #writing: Promise<unknown>[] = []
  readonly #received: Uploaded[] = []
  #total = 0
  #refuse: (error: unknown) => void = () => undefined
  /** Rejects with the first thing that goes wrong. */
  readonly wrong: Promise<never>

  constructor(limit: number) {
    this.#limit = limit
    this.wrong = new Promise((_, reject) => {
      this.#refuse = reject
    })
    this.wrong.catch(() => undefined)
  }

  refuse(error: unknown): void {
    this.#refuse(error)
  }

  tooLarge(): Refusal {
    return new Refusal(
      'too-large',
      `Files up to ${String(Math.round(this.#limit / 1_048_576))} MB together can be brought in. Nothing was changed; make the ` +
        `pictures smaller or bring the deck in parts.`,
    )
  }

  add(stream: Readable, name: string | undefined): void {
    const path = join(uploadFolder(), randomUUID())
    this.#paths.push(path)
    let bytes = 0
    const hash = createHash('sha256')
    stream.on('data', (data: Buffer) => {
      bytes += data.length
      hash.update(data)
      this.#total += data.length
      if (this.#total > this.#limit) this.refuse(this.tooLarge())
    })
    // Also a disk that is full ends it: whoever sends hears of it at once.
    const written = pipeline(stream, createWriteStream(path, { mode: 0o600 })).then(() => {
      this.#received.push({ path, name: plainName(name), bytes, digest: hash.digest('hex') })
    })
    written.catch((error: unknown) => {
      this.refuse(error)
    })
    this.#writing.push(written)
  }

  async files(): Promise<readonly Uploaded[]> {
    await Promise.all(this.#writing)
    return this.#received
  }

  /** Nothing that arrived is kept. */
  async forget(): Promise<void> {
    await Promise.allSettled(this.#writing)
    await Promise.all(this.#paths.map((path) => rm(path, { force: true })))
  }
}

/**
 * Receives the files of a form and hands them over; what is left of them afterwards, taken in or refused, is removed.
 * @param limit bytes of all files together
 * @throws Refusal as `receiveFiles` does, and whatever the work throws
 */
export async function withFiles<Result>(
  event: H3Event,
  work: (files: readonly Uploaded[]) => Promise<Result>,
  limit = settings().maxUpload,
): Promise<Result> {
  const files = await receiveFiles(event, limit)
  try {
    return await work(files)
  } finally {
    await Promise.all(files.map(({ path }) => rm(path, { force: true })))
  }
}

/**
 * Receives the files of a form and takes them in in one transaction, which begins once their bytes are where they are kept.
 * @param limit and what is thrown: as `withFiles`
 */
export const takeInFiles = <Result>(
  event: H3Event,
  work: (q: Queries, files: readonly StagedUpload[]) => Promise<Result>,
  limit = settings().maxUpload,
): Promise<Result> =>
  withFiles(
    event,
    async (files) => {
      const staged = await stageUploads(files)
      return await database()
        .transaction()
        .execute((q) => work(q, staged))
    },
    limit,
  )

/**
 * Receives the files of a form straight onto the disk, never more than is allowed: what says that it is more is not begun, and what
 * turns out to be more goes no further.
 * @throws Refusal `too-large`, `unavailable` when there is no room for it, `malformed` when it was broken off; nothing that arrived is
 * kept then
 */
async function receiveFiles(event: H3Event, limit: number): Promise<readonly Uploaded[]> {
  const { req } = event.node
  const receiving = new Receiving(limit)
  const announced = announcedBytes(req)
  if (announced !== null && announced > limit + FORM_BYTES * MOST_FILES) {
    await letPass(event)
    throw receiving.tooLarge()
  }
  try {
    await roomForUpload(announced ?? 0)
  } catch (error) {
    await letPass(event)
    throw error
  }
  await mkdir(uploadFolder(), { recursive: true })
  let form: busboy.Busboy
  try {
    form = busboy({
      headers: req.headers,
      defParamCharset: 'utf8',
      limits: { files: MOST_FILES, fileSize: limit, fields: 10, fieldSize: FORM_BYTES, parts: MOST_FILES + 10 },
    })
  } catch {
    throw new Refusal('malformed', 'No file arrived.')
  }
  form.on('file', (_field, stream, { filename }) => {
    stream.on('limit', () => {
      receiving.refuse(receiving.tooLarge())
    })
    receiving.add(stream, filename)
  })
  form.on('filesLimit', () => {
    receiving.refuse(new Refusal('too-large', `Up to ${String(MOST_FILES)} files can be brought in at once.`))
  })
  form.on('error', () => {
    receiving.refuse(new Refusal('malformed', 'The file arrived damaged. Try again.'))
  })
  const brokenOff = (): void => {
    receiving.refuse(new Refusal('malformed', 'The transfer was broken off. Nothing was changed.'))
  }
  req.once('aborted', brokenOff)
  req.once('error', brokenOff)
  const whole = new Promise<void>((resolve) => {
    form.on('close', () => {
      resolve()
    })
  })
  try {
    req.pipe(form)
    await Promise.race([whole, receiving.wrong])
    return await Promise.race([receiving.files(), receiving.wrong])
  } catch (error) {
    req.unpipe(form)
    form.destroy()
    await receiving.forget()
    await letPass(event)
    throw error
  }
}
