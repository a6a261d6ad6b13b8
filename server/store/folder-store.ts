import { createReadStream } from 'node:fs'
import { copyFile, mkdir, opendir, rm, stat, writeFile } from 'node:fs/promises'
import { dirname, join, relative, sep } from 'node:path'
import { randomUUID } from 'node:crypto'
import type { Readable } from 'node:stream'
import type { ByteRange, KeptFile, ObjectStore } from './object-store'
import { putWhole, safeFolder } from './safe-files'

/** All files in a folder and those in it, one after the other. */
export async function* pathsIn(folder: string): AsyncGenerator<string> {
  const entries = await opendir(folder, { recursive: true }).catch(() => [])
  for await (const entry of entries) if (entry.isFile()) yield join(entry.parentPath, entry.name)
}

/** Files in a folder, which several machines may share by a network file system. */
export class FolderStore implements ObjectStore {
  readonly #root: string

  constructor(root: string) {
    this.#root = root
  }

  readonly #at = (name: string): string => join(this.#root, ...name.split('/'))

  async put(name: string, path: string): Promise<KeptFile> {
    const to = this.#at(name)
    await safeFolder(dirname(to))
    const part = `${to}.${randomUUID()}.part`
    try {
      await copyFile(path, part)
      await putWhole(part, to)
    } finally {
      await rm(part, { force: true })
    }
    const kept = await this.find(name)
    if (kept?.bytes !== (await stat(path)).size) throw new Error(`${name} is not kept as it was given`)
    return kept
  }

  async find(name: string): Promise<KeptFile | null> {
    const found = await stat(this.#at(name)).catch(() => null)
    return found?.isFile() === true ? { name, bytes: found.size, changed: found.mtimeMs } : null
  }

  async fetch(name: string, path: string): Promise<KeptFile | null> {
    const kept = await this.find(name)
    if (kept === null) return null
    await copyFile(this.#at(name), path)
    return kept
  }

  async read(name: string, range?: ByteRange): Promise<Readable | null> {
    return (await this.find(name)) === null ? null : createReadStream(this.#at(name), range)
  }

  async *list(prefix: string): AsyncGenerator<KeptFile> {
    // A prefix may end in the middle of a name; what is looked through is the folder that it is in.
    const folder = this.#at(prefix.slice(0, prefix.lastIndexOf('/') + 1))
    for await (const path of pathsIn(folder)) {
      const name = relative(this.#root, path).split(sep).join('/')
      if (!name.startsWith(prefix)) continue
      const kept = await this.find(name)
      if (kept !== null) yield kept
    }
  }

  async rename(from: string, to: string): Promise<KeptFile> {
    await safeFolder(dirname(this.#at(to)))
    await putWhole(this.#at(from), this.#at(to))
    const kept = await this.find(to)
    if (kept === null) throw new Error(`${to} is not kept`)
    return kept
  }

  async remove(name: string): Promise<void> {
    await rm(this.#at(name), { force: true })
  }

  async isWritable(): Promise<boolean> {
    await mkdir(this.#root, { recursive: true })
    const path = join(this.#root, `${randomUUID()}.part`)
    await writeFile(path, '')
    await rm(path)
    return true
  }
}
