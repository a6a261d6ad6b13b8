import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, mkdtemp, rm, stat } from 'node:fs/promises'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import busboy from 'busboy'
import { PackageStore, announcement } from './package-store'
import type { AnnouncedFile, Package, Receipt } from './package-store'

/** Largest file that is taken in, in bytes. */
const MOST = 4e9
const MOST_JSON = 256 * 1024

/** What a service does with what it is given. */
export interface ServiceKind {
  /** Beginning of its paths, such as `/desk`. */
  readonly path: string
  /** Why a package is not even begun; empty: it may be. */
  readonly before: (announced: Pick<Package, 'notes' | 'files'>, all: readonly Package[]) => readonly string[]
  /** Looks at what has arrived. @returns why it is refused; empty: it is taken */
  readonly examine: (one: Package, fileOf: (role: AnnouncedFile['role']) => string | null) => Promise<readonly string[]>
  /** Where what was taken is to be found; null: nowhere. @param base address of the service */
  readonly pageOf: (one: Package, base: string) => string | null
  /** Answers for all other paths. @returns whether there was something */
  readonly show: (at: string, response: ServerResponse, store: PackageStore, request: IncomingMessage) => Promise<boolean>
  /** A page that says what became of what came by form. */
  readonly answerForm: (end: NonNullable<Package['end']>) => string
}

const json = (response: ServerResponse, status: number, body: unknown): void => {
  response.writeHead(status, { 'content-type': 'application/json; charset=utf-8' }).end(JSON.stringify(body))
}
export const html = (response: ServerResponse, status: number, page: string): void => {
  response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' }).end(page)
}

async function readJson(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of request as AsyncIterable<Buffer>) {
    bytes += part.length
    if (bytes > MOST_JSON) throw new Error('too long')
    parts.push(part)
  }
  return JSON.parse(Buffer.concat(parts).toString('utf8')) as unknown
}

async function digestOf(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of createReadStream(path) as AsyncIterable<Buffer>) hash.update(part)
  return hash.digest('hex')
}

/** Files whose bytes are not those that were announced. */
async function brokenFiles(one: Package, store: PackageStore): Promise<readonly string[]> {
  const said: string[] = []
  for (const { role, name, bytes, sha256 } of one.files) {
    const path = store.fileOf(one, role)
    if (path === null) said.push(`${name} did not arrive.`)
    else if ((await stat(path)).size !== bytes) said.push(`${name} did not arrive whole.`)
    else if (sha256 !== '' && (await digestOf(path)) !== sha256) said.push(`${name} was changed on its way.`)
  }
  return said
}

/** Takes packages of files by the protocol of docs/formats.md, and by a form. */
export class Service {
  readonly #kind: ServiceKind
  readonly #store: PackageStore
  readonly #uploads: Server
  readonly #folder: string
  /** Packages are closed one after the other: two at once must not both be the last that is allowed. */
  #turn: Promise<unknown> = Promise.resolve()

  constructor(kind: ServiceKind, folder: string) {
    this.#kind = kind
    this.#folder = folder
    this.#store = new PackageStore(join(folder, 'packages'))
    this.#uploads = new Server({
      path: `${kind.path}/uploads`,
      datastore: new FileStore({ directory: join(folder, 'uploads') }),
      maxSize: MOST,
      onUploadCreate: async (_, upload) => {
        const { package: id = '', role = '' } = upload.metadata ?? {}
        const one = await this.#store.find(id ?? '')
        const announced = one?.files.find((each) => each.role === role)
        if (one === null || one.end !== null || announced?.bytes !== upload.size)
          throw { status_code: 403, body: 'This was not announced.' }
        return {}
      },
      onUploadFinish: async (_, upload) => {
        const { package: id = '', role = '' } = upload.metadata ?? {}
        await this.#store.arrive(id ?? '', role ?? '', join(folder, 'uploads', upload.id))
        return {}
      },
    })
  }

  async open(): Promise<void> {
    await Promise.all([mkdir(join(this.#folder, 'uploads'), { recursive: true }), mkdir(this.#store.folder, { recursive: true })])
  }

  /** @returns whether there is anything at this path */
  async answer(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    const { path } = this.#kind
    const at = (request.url ?? '').split('?')[0] ?? ''
    if (at !== path && !at.startsWith(`${path}/`)) return false
    const rest = at.slice(path.length)
    const base = `http://${request.headers.host ?? ''}${path}`
    if (rest.startsWith('/uploads')) await this.#uploads.handle(request, response)
    else if (request.method === 'POST' && rest === '/packages') await this.#announce(request, response)
    else if (request.method === 'POST' && rest === '/form') await this.#byForm(request, response, base)
    else if (request.method === 'POST') return await this.#closeOne(rest, response, base)
    else return await this.#kind.show(rest, response, this.#store, request)
    return true
  }

  async #announce(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { value, error } = announcement.validate(await readJson(request))
    if (error !== undefined) {
      json(response, 400, { refused: [`This is not understood: ${error.message}.`] })
      return
    }
    const refused = this.#kind.before(value, await this.#store.all())
    if (refused.length > 0) json(response, 422, { refused })
    else json(response, 201, { package: (await this.#store.announce(value)).id })
  }

  async #closeOne(rest: string, response: ServerResponse, base: string): Promise<boolean> {
    const id = /^\/packages\/([\w-]+)\/close$/.exec(rest)?.[1]
    if (id === undefined || (await this.#store.find(id)) === null) return false
    const end = await this.#close(id, base)
    if (end.kind === 'taken') json(response, 200, { receipt: end.receipt })
    else json(response, 422, { refused: end.refused })
    return true
  }

  /** Looks at a package, once: asked again it says the same. */
  #close(id: string, base: string): Promise<NonNullable<Package['end']>> {
    const turn = this.#turn.then(async (): Promise<NonNullable<Package['end']>> => {
      const one = await this.#store.find(id)
      if (one === null) return { kind: 'refused', refused: ['There is no such package.'] }
      if (one.end !== null) return one.end
      const broken = await brokenFiles(one, this.#store)
      const refused = broken.length > 0 ? broken : await this.#kind.examine(one, (role) => this.#store.fileOf(one, role))
      const receipt: Receipt = { number: id.slice(0, 8).toUpperCase(), at: new Date().toISOString(), page: this.#kind.pageOf(one, base) }
      const end = refused.length === 0 ? ({ kind: 'taken', receipt } as const) : ({ kind: 'refused', refused } as const)
      // What did not arrive may still come.
      if (broken.length === 0) await this.#store.keep({ ...one, end })
      return end
    })
    this.#turn = turn.catch(() => undefined)
    return turn
  }

  /** Takes what a page's form sends: fields, and files by their roles. */
  async #byForm(request: IncomingMessage, response: ServerResponse, base: string): Promise<void> {
    const scratch = await mkdtemp(join(this.#folder, 'uploads', 'form-'))
    try {
      const notes: Record<string, string> = {}
      const files: unknown[] = []
      const writing: Promise<void>[] = []
      const form = busboy({ headers: request.headers, limits: { fileSize: MOST, files: 4, fields: 30, fieldSize: 4096 } })
      form.on('field', (name, value) => {
        notes[name] = value
      })
      form.on('file', (role, stream, { filename }) => {
        const path = join(scratch, role.replace(/\W/g, ''))
        writing.push(
          pipeline(stream, createWriteStream(path)).then(async () => {
            const { size: bytes } = await stat(path)
            if (filename !== undefined && bytes > 0) files.push({ role, name: filename, bytes, sha256: '' })
          }),
        )
      })
      await pipeline(request, form)
      await Promise.all(writing)
      html(response, 200, this.#kind.answerForm(await this.#take({ notes, files }, scratch, base)))
    } finally {
      await rm(scratch, { recursive: true, force: true })
    }
  }

  async #take(announced: unknown, scratch: string, base: string): Promise<NonNullable<Package['end']>> {
    const { value, error } = announcement.validate(announced)
    if (error !== undefined) return { kind: 'refused', refused: ['There is no film.'] }
    const refused = this.#kind.before(value, await this.#store.all())
    if (refused.length > 0) return { kind: 'refused', refused }
    const { id } = await this.#store.announce(value)
    for (const { role } of value.files) await this.#store.arrive(id, role, join(scratch, role))
    return await this.#close(id, base)
  }
}
