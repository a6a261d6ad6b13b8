import type { Readable } from 'node:stream'

/** What is known of a file that is kept. */
export interface KeptFile {
  /** Within the store, with slashes. */
  readonly name: string
  readonly bytes: number
  /** When it was put there, in ms since 1970; an object store may know whole seconds only. */
  readonly changed: number
}

/** Bytes of a file, both ends included. */
export interface ByteRange {
  readonly start: number
  readonly end: number
}

/** Where media are kept for good, by their names: a folder, or objects that a service keeps. */
export interface ObjectStore {
  /**
   * Keeps a file under a name; it is there whole or not at all, and safe when this returns.
   * @throws Error when what is kept is not what was given
   */
  readonly put: (name: string, path: string) => Promise<KeptFile>
  readonly find: (name: string) => Promise<KeptFile | null>
  /**
   * Copies a file to a path that nobody else uses.
   * @returns null when it is not there
   * @throws Error when what comes is not what was kept
   */
  readonly fetch: (name: string, path: string) => Promise<KeptFile | null>
  /** Reads a file, or a part of it. @returns null when it is not there */
  readonly read: (name: string, range?: ByteRange) => Promise<Readable | null>
  /** All files whose names begin so. */
  readonly list: (prefix: string) => AsyncIterable<KeptFile>
  /** Gives a file another name. What it holds is not sent again. */
  readonly rename: (from: string, to: string) => Promise<KeptFile>
  /** Removes a file, if it is there. */
  readonly remove: (name: string) => Promise<void>
  /** Whether it answers and lets itself be written to. */
  readonly isWritable: () => Promise<boolean>
}
