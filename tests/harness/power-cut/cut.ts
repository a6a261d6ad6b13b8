import {
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'

/** What a file or folder held when it was last written to the disk itself. */
interface Held {
  readonly ino: number
  readonly size?: number
  readonly names?: Readonly<Record<string, number>>
}

/** A data folder on a disk that may lose its power. */
export interface CutDisk {
  /** The data folder. */
  readonly data: string
  /** For the product that runs on it: what has its syncs noted. */
  readonly settings: Readonly<Record<string, string>>
  /** Takes from the store what a power cut may: call it while nothing runs. @returns what went, by name */
  readonly cut: () => readonly string[]
  readonly remove: () => void
}

/** Heads or tails. */
const toss = (): boolean => Math.random() < 0.5

/** Writes something else over what was never synced: the disk had the room for it, and not yet what belongs there. */
function garble(path: string, from: number): void {
  const { size } = lstatSync(path)
  // A name of its own: what was linked aside stays as it was.
  const bytes = readFileSync(path)
  rmSync(path)
  writeFileSync(path, bytes)
  if (toss()) {
    truncateSync(path, from + Math.floor(Math.random() * (size - from)))
    return
  }
  bytes.fill(0, from)
  writeFileSync(path, bytes)
}

/**
 * Makes a disk that keeps, when its power is cut, what was synced, and of all else whatever chance leaves: names of files and folders
 * that their folder was not synced with, names that were taken away, and bytes that their file was not synced with, each for itself and
 * in no order.
 * @param heard false: no sync counts, as on a disk that lies
 */
export function cutDisk(heard = true): CutDisk {
  const data = mkdtempSync(join(tmpdir(), 'aisle-power-'))
  const [store, aside, notes] = [join(data, 'store'), join(data, 'aside'), join(data, 'syncs')]
  mkdirSync(store)
  mkdirSync(aside)
  writeFileSync(notes, '')

  const cutFolder = (folder: string, held: ReadonlyMap<number, Held>, gone: string[]): void => {
    const synced = held.get(lstatSync(folder).ino)?.names ?? {}
    const now = new Map(readdirSync(folder).map((name) => [name, lstatSync(join(folder, name)).ino]))
    for (const [name, ino] of now) {
      const path = join(folder, name)
      if (synced[name] === ino || toss()) continue
      gone.push(path)
      rmSync(path, { recursive: true })
    }
    for (const [name, ino] of Object.entries(synced)) {
      const old = join(aside, String(ino))
      // Taken away, or another put in its place, since its folder was synced.
      if (now.get(name) === ino || !existsSync(old) || existsSync(join(folder, name)) || toss()) continue
      linkSync(old, join(folder, name))
    }
    for (const name of readdirSync(folder)) {
      const path = join(folder, name)
      const stat = lstatSync(path)
      if (stat.isDirectory()) {
        cutFolder(path, held, gone)
        continue
      }
      const safe = held.get(stat.ino)?.size ?? 0
      if (stat.size <= safe || toss()) continue
      gone.push(`${path} from ${String(safe)}`)
      garble(path, safe)
    }
  }

  return {
    data,
    settings: {
      AISLE_DATA: data,
      AISLE_SYNCS: notes,
      AISLE_SYNCS_ASIDE: aside,
      NODE_OPTIONS: `--import ${pathToFileURL('tests/harness/power-cut/note-syncs.mjs').href}`,
    },
    cut: () => {
      const lines = heard
        ? readFileSync(notes, 'utf8')
            .split('\n')
            .filter((line) => line !== '')
        : []
      const held = new Map(lines.map((line) => JSON.parse(line) as Held).map((one) => [one.ino, one]))
      const gone: string[] = []
      cutFolder(store, held, gone)
      // What is there now is what is on the disk.
      settle(store, notes)
      return gone
    },
    remove: () => {
      rmSync(data, { recursive: true, force: true })
    },
  }
}

/** Notes all that is there as synced. */
function settle(folder: string, notes: string): void {
  const lines: string[] = []
  const visit = (path: string): void => {
    const stat = lstatSync(path)
    if (!stat.isDirectory()) {
      lines.push(JSON.stringify({ ino: stat.ino, size: stat.size }))
      return
    }
    const names = readdirSync(path)
    lines.push(JSON.stringify({ ino: stat.ino, names: Object.fromEntries(names.map((name) => [name, lstatSync(join(path, name)).ino])) }))
    for (const name of names) visit(join(path, name))
  }
  visit(folder)
  writeFileSync(notes, `${lines.join('\n')}\n`)
}
