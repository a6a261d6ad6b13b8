import { join, relative, sep } from 'node:path'
import { settings } from '@server/settings'
import type { Settings, StorePlace } from '@server/settings'
import { FolderStore } from './folder-store'
import type { ObjectStore } from './object-store'
import { S3Store } from './s3-store'

/** Where media are kept, and where they were before. */
export interface Stores {
  readonly store: ObjectStore
  /** Where it is looked for what has not been taken over yet; null: nowhere. */
  readonly former: ObjectStore | null
  /**
   * Whether the store is the folder that this machine works in. Otherwise files there are copies of what is kept elsewhere.
   */
  readonly here: boolean
}

const folderOf = (data: string): string => join(data, 'store')

/** Folder on this machine that files of the store are opened in. */
export const workingFolder = (): string =>
  settings().store.kind === 'folder' ? folderOf(settings().data) : join(settings().data, 'store-cache')

/** Opens a store. */
const openStore = (place: StorePlace): ObjectStore =>
  place.kind === 'folder' ? new FolderStore(folderOf(settings().data)) : new S3Store(place)

let opened: Stores | undefined
/** The stores of this process. */
export const stores = (): Stores => (opened ??= openStores(settings()))

const openStores = ({ store, formerStore }: Settings): Stores => ({
  store: openStore(store),
  former: formerStore === null ? null : openStore(formerStore),
  here: store.kind === 'folder',
})

/** Of the folder of uploads, what was brought and waits to be read, on whichever machine; all else there is this machine's own work. */
const WAITING = /^uploads\/(film|archive)-[0-9a-f-]{36}$/
const OWN_WORK = /^uploads\/|\.part$/

/** What a path is called in the store; null: it is none of its files. */
export function nameInStore(path: string): string | null {
  const name = relative(workingFolder(), path).split(sep).join('/')
  if (name === '' || name.startsWith('../') || (OWN_WORK.test(name) && !WAITING.test(name))) return null
  return name
}
