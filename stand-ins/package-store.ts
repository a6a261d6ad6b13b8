import { randomBytes } from 'node:crypto'
import { mkdir, readFile, readdir, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import Joi from 'joi'

/** A file as it is announced. */
export interface AnnouncedFile {
  readonly role: 'film' | 'captions' | 'transcript' | 'cover'
  readonly name: string
  readonly bytes: number
  /** In hex; empty where nobody said. */
  readonly sha256: string
  readonly language?: string
}

export interface Receipt {
  readonly number: string
  readonly at: string
  readonly page: string | null
}

/** Files that belong together, with what is said of them, and what became of them. */
export interface Package {
  readonly id: string
  readonly notes: Readonly<Record<string, unknown>>
  readonly files: readonly AnnouncedFile[]
  /** Names of the files that have arrived, by role. */
  readonly arrived: Readonly<Record<string, string>>
  readonly end:
    { readonly kind: 'taken'; readonly receipt: Receipt } | { readonly kind: 'refused'; readonly refused: readonly string[] } | null
}

const file = Joi.object({
  role: Joi.valid('film', 'captions', 'transcript', 'cover').required(),
  name: Joi.string().min(1).max(255).required(),
  bytes: Joi.number().integer().min(0).required(),
  sha256: Joi.string().hex().length(64).allow('').required(),
  language: Joi.string().max(35),
})

/** What somebody announces. */
export const announcement = Joi.object<Pick<Package, 'notes' | 'files'>>({
  notes: Joi.object().required(),
  files: Joi.array().items(file).min(1).max(4).unique('role').required(),
})

const ID = /^[\w-]{16}$/

/** Packages of one service, each a folder with what is known of it and its files. They are there after a restart. */
export class PackageStore {
  readonly folder: string

  constructor(folder: string) {
    this.folder = folder
  }

  readonly #noteOf = (id: string): string => join(this.folder, id, 'package.json')
  /** Where a file that arrived is kept. */
  readonly fileOf = ({ id, arrived }: Package, role: AnnouncedFile['role']): string | null =>
    arrived[role] === undefined ? null : join(this.folder, id, role)

  async announce({ notes, files }: Pick<Package, 'notes' | 'files'>): Promise<Package> {
    const made: Package = { id: randomBytes(12).toString('base64url'), notes, files, arrived: {}, end: null }
    await mkdir(join(this.folder, made.id), { recursive: true })
    await this.keep(made)
    return made
  }

  async keep(one: Package): Promise<void> {
    const note = this.#noteOf(one.id)
    await writeFile(`${note}.new`, JSON.stringify(one))
    await rename(`${note}.new`, note)
  }

  /** null: there is none of that name. */
  async find(id: string): Promise<Package | null> {
    if (!ID.test(id)) return null
    try {
      return JSON.parse(await readFile(this.#noteOf(id), 'utf8')) as Package
    } catch {
      return null
    }
  }

  /** Takes a file that has arrived out of the way of the next. */
  async arrive(id: string, role: string, from: string): Promise<void> {
    const one = await this.find(id)
    const announced = one?.files.find((each) => each.role === role)
    if (one === null || announced === undefined) return
    await rename(from, join(this.folder, id, role))
    await this.keep({ ...one, arrived: { ...one.arrived, [role]: announced.name } })
  }

  async all(): Promise<readonly Package[]> {
    const ids = await readdir(this.folder).catch(() => [])
    const found = await Promise.all(ids.map((id) => this.find(id)))
    return found.filter((one) => one !== null)
  }
}
