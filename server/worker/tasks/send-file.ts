import { mkdtemp, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Refusal } from '@core/model'
import { withoutEnding } from '@core/plan'
import type { Rules } from '@core/rules'
import { database } from '@server/database'
import type { ResumePoint } from '@server/database'
import {
  captionsOfDelivery,
  chaptersOf,
  coverOf,
  handInOf,
  openPlace,
  sendingProgress,
  sendingToDo,
  settleSending,
  talkOfSending,
  transcriptFile,
} from '@server/domain'
import type { SendingEnd, SendingToDo } from '@server/domain'
import { basicHeaders, outsideRefusal, packageUpload, tusUpload, webdavUpload } from '@server/outside'
import type { PackageFile } from '@server/outside'
import { deliveryPath, digestOfFile, here } from '@server/store'

/** How often a page is told, and a stop noticed, in ms. */
const PACE = 1000

/** Notes how far a sending came, and ends it when it was stopped. */
class SendingWatch {
  readonly #sending: SendingToDo
  readonly #stop = new AbortController()
  #sent: number
  #resume: ResumePoint
  #timer: NodeJS.Timeout
  #writing: Promise<void> = Promise.resolve()

  constructor(sending: SendingToDo) {
    this.#sending = sending
    this.#sent = sending.sent
    this.#resume = sending.resume
    this.#timer = setInterval(() => {
      this.#write()
    }, PACE)
  }

  get signal(): AbortSignal {
    return this.#stop.signal
  }

  readonly sent = (bytes: number): void => {
    this.#sent = bytes
  }

  readonly resume = (resume: ResumePoint): void => {
    this.#resume = resume
    this.#write()
  }

  #write(): void {
    this.#writing = this.#writing.then(async () => {
      const wanted = await sendingProgress(database(), this.#sending, { sent: this.#sent, resume: this.#resume })
      if (!wanted) this.#stop.abort(new Error('stopped'))
    })
    this.#writing.catch(() => undefined)
  }

  /** Looks now whether it is still wanted. @throws Error when it was stopped */
  readonly stillWanted = async (): Promise<void> => {
    this.#write()
    await this.#writing
    this.#stop.signal.throwIfAborted()
  }

  /** Nothing is written any more once this is over. */
  async end(): Promise<void> {
    clearInterval(this.#timer)
    this.#write()
    await this.#writing.catch(() => undefined)
  }
}

/** A file of a package as it is written for the way. */
async function writtenFile(
  folder: string,
  role: PackageFile['role'],
  name: string,
  content: string | Buffer,
  language?: string,
): Promise<PackageFile> {
  const path = join(folder, name)
  await writeFile(path, content)
  const { size: bytes } = await stat(path)
  return { role, name, path, bytes, digest: await digestOfFile(path), ...(language === undefined ? {} : { language }) }
}

/** What a site takes beside a film. */
const SITE_WANTS: Pick<Rules, 'captions' | 'transcript' | 'cover'> = { captions: { where: 'beside' } }

/** What goes with a film: to a desk what its rules ask for, to a site captions. */
async function companions(sending: SendingToDo, folder: string): Promise<readonly PackageFile[]> {
  const { kind, talk, delivery, file } = sending
  const q = database()
  const { words, cover, ...handIn } = await handInOf(q, talk)
  const rules = kind === 'desk' ? handIn.rules : SITE_WANTS
  const stem = withoutEnding(file)
  const files: PackageFile[] = []
  if (rules?.captions !== undefined && words !== null) {
    const { content } = await captionsOfDelivery(q, delivery, 'vtt')
    files.push(await writtenFile(folder, 'captions', `${stem}.vtt`, content, words))
  }
  if (rules?.transcript !== undefined) {
    const { content } = await transcriptFile(q, talk, { kind: 'txt', tidied: true, pictures: false })
    files.push(await writtenFile(folder, 'transcript', `${stem}.txt`, content, words ?? 'und'))
  }
  if (rules?.cover !== undefined) files.push(await writtenFile(folder, 'cover', `${stem}.jpg`, await coverOf(q, talk, cover, rules.cover)))
  return files
}

/** What is said of a film where it goes. */
async function saidOf({ notes, delivery }: SendingToDo): Promise<Readonly<Record<string, unknown>>> {
  switch (notes.kind) {
    case 'none':
      return {}
    case 'fields':
      return notes.fields
    case 'site': {
      const { title, description, audience } = notes
      const chapters = (await chaptersOf(database(), delivery)).map((one) => ({ title: one.title, start: one.start }))
      return { title, description, audience, chapters }
    }
  }
}

/** Sends a film with what goes along to a desk or a site. */
async function sendPackage(sending: SendingToDo, film: PackageFile, watch: SendingWatch): Promise<SendingEnd> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-package-'))
  try {
    const files = [film, ...(await companions(sending, folder))]
    const total = files.reduce((sum, { bytes }) => sum + bytes, 0)
    await sendingProgress(database(), sending, { total })
    const answer = await packageUpload({
      address: sending.address,
      notes: await saidOf(sending),
      files,
      resume: sending.resume,
      signal: watch.signal,
      onResume: watch.resume,
      onProgress: watch.sent,
    })
    return answer.kind === 'taken'
      ? { state: 'done', file: film.name, receipt: answer.receipt }
      : { state: 'refused', sentence: answer.sentences.join(' ') }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Sends a film alone to a place of its owner's. */
async function sendToPlace(sending: SendingToDo, film: PackageFile, watch: SendingWatch): Promise<SendingEnd> {
  if (sending.place === null) throw new Refusal('conflict', 'The place was deleted before the file was sent.')
  const place = await openPlace(database(), sending.owner, sending.place)
  const { name, path, bytes, digest } = film
  const { signal, sent: onProgress } = watch
  if (place.kind === 'webdav') {
    const { stillWanted } = watch
    return arrivedAs(await webdavUpload({ ...place, name, mark: digest.slice(0, 8), path, bytes, signal, onProgress, stillWanted }))
  }
  await tusUpload({
    endpoint: place.address,
    begun: sending.resume.uploads?.['film'] ?? null,
    path,
    bytes,
    metadata: { filename: name },
    headers: basicHeaders(place),
    signal,
    onAddress: (upload) => {
      watch.resume({ uploads: { film: upload } })
    },
    onProgress,
  })
  return arrivedAs(name)
}

/** A place gives no receipt: what is known is that all bytes arrived, and what they are called there. */
const arrivedAs = (file: string): SendingEnd => ({
  state: 'done',
  file,
  receipt: { number: file, at: new Date().toISOString(), page: null },
})

/** Sends a file, from where an earlier attempt came to. @throws Error when nobody answers, so that it is tried again */
export async function sendFileTask(id: string): Promise<void> {
  const sending = await sendingToDo(database(), id)
  if (sending === null) return
  const path = await here(deliveryPath(sending.delivery))
  const digest = sending.digest ?? (await digestOfFile(path))
  if (!(await sendingProgress(database(), sending, { digest }))) return
  const { size: bytes } = await stat(path)
  const film: PackageFile = { role: 'film', name: sending.file, path, bytes, digest }
  const watch = new SendingWatch(sending)
  try {
    const end = sending.kind === 'place' ? await sendToPlace(sending, film, watch) : await sendPackage(sending, film, watch)
    await watch.end()
    await settleSending(database(), sending, end)
  } catch (error) {
    await watch.end()
    if (watch.signal.aborted) return
    const refusal = outsideRefusal(error, new URL(sending.address).hostname)
    // What is refused for a reason is refused again.
    if (refusal.code === 'unavailable') throw refusal
    await settleSending(database(), sending, { state: 'failed', sentence: refusal.message })
  }
}

export async function sendFileGivenUp(id: string, error: unknown): Promise<void> {
  const talk = await talkOfSending(database(), id)
  if (talk === null) return
  const sentence = error instanceof Refusal ? error.message : 'It could not be sent. What arrived is kept there, and is gone on with.'
  await settleSending(database(), { id, talk }, { state: 'failed', sentence })
}
