import { openDB } from 'idb'
import type { DBSchema, IDBPDatabase } from 'idb'
import type { Cue, Intent, Ms, Snapshot, TakeKind } from '@core/model'

/** A take as this browser keeps it until the server has it all. */
export interface LocalTake {
  readonly id: string
  readonly talk: string
  readonly kind: TakeKind
  readonly intent: Intent
  /** Stopped by the presenter. A take that is not, and that nobody is recording, was broken off. */
  readonly stopped: boolean
  readonly began: number
}

export interface LocalStretch {
  readonly id: string
  readonly take: string
  readonly number: number
  readonly camera: boolean
  /** Without a voice there is no recording, only cues. */
  readonly voice: boolean
  readonly mime: string
  readonly opening: Snapshot
  readonly offsets: { readonly picture: number, readonly sound: number } | null
  readonly closing: { readonly slices: number, readonly cues: number, readonly length: Ms } | null
  /** How much of it counts when not all does. */
  readonly kept: Ms | null
}

interface Schema extends DBSchema {
  takes: { key: string, value: LocalTake, indexes: { talk: string } }
  stretches: { key: string, value: LocalStretch, indexes: { take: string } }
  slices: { key: [string, number], value: { stretch: string, n: number, bytes: ArrayBuffer, digest: string }, indexes: { stretch: string } }
  prints: { key: [string, number], value: { stretch: string, n: number, at: number, rate: number, samples: ArrayBuffer }, indexes: { stretch: string } }
  cues: { key: [string, number], value: { stretch: string, n: number, cue: Cue }, indexes: { stretch: string } }
}

let opened: Promise<IDBPDatabase<Schema>> | undefined

/** This browser's own store of takes. */
export const localTakes = (): Promise<IDBPDatabase<Schema>> => (opened ??= openDB<Schema>('aisle-takes', 2, {
  upgrade(db, before) {
    db.createObjectStore('prints', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
    if (before > 0) return
    db.createObjectStore('takes', { keyPath: 'id' }).createIndex('talk', 'talk')
    db.createObjectStore('stretches', { keyPath: 'id' }).createIndex('take', 'take')
    db.createObjectStore('slices', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
    db.createObjectStore('cues', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
  },
}))

/** Keeps a record; when this returns it is on the disk, as far as the browser can tell. */
export async function keepLocally<Name extends 'takes' | 'stretches' | 'slices' | 'cues' | 'prints'>(store: Name, value: Schema[Name]['value']): Promise<void> {
  const transaction = (await localTakes()).transaction(store, 'readwrite', { durability: 'strict' })
  await transaction.store.put(value)
  await transaction.done
}

/** Forgets a take and all that belongs to it. */
export async function forgetTake(id: string): Promise<void> {
  const db = await localTakes()
  const stretches = await db.getAllKeysFromIndex('stretches', 'take', id)
  const transaction = db.transaction(['takes', 'stretches', 'slices', 'cues', 'prints'], 'readwrite')
  await transaction.objectStore('takes').delete(id)
  for (const stretch of stretches) {
    await transaction.objectStore('stretches').delete(stretch)
    for (const name of ['slices', 'cues', 'prints'] as const) {
      for (const key of await transaction.objectStore(name).index('stretch').getAllKeys(stretch)) await transaction.objectStore(name).delete(key)
    }
  }
  await transaction.done
}
