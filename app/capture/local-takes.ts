import { openDB, unwrap } from 'idb'
import type { DBSchema, IDBPDatabase, IDBPTransaction } from 'idb'
import { packVideoFingerprint } from '@core/camera'
import type { SmallPicture } from '@core/camera'
import type { Cue, Intent, Ms, Snapshot, TakeKind, WindowView } from '@core/model'
import type { Still } from './watch-rest'

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
  readonly offsets: { readonly picture: number; readonly sound: number } | null
  readonly closing: { readonly chunks: number; readonly cues: number; readonly length: Ms } | null
  /** How much of it counts when not all does. */
  readonly kept: Ms | null
  /** It is of a window that is shown during the stretch `of`. */
  readonly window?: WindowView & { readonly of: string }
}

interface Schema extends DBSchema {
  takes: { key: string; value: LocalTake; indexes: { talk: string } }
  stretches: { key: string; value: LocalStretch; indexes: { take: string } }
  chunks: { key: [string, number]; value: { stretch: string; n: number; bytes: ArrayBuffer; digest: string }; indexes: { stretch: string } }
  prints: {
    key: [string, number]
    value: { stretch: string; n: number; at: number; rate: number; samples: ArrayBuffer }
    indexes: { stretch: string }
  }
  cues: { key: [string, number]; value: { stretch: string; n: number; cue: Cue }; indexes: { stretch: string } }
  /** Events that the server would not take, so that nothing else waits for them. */
  aside: { key: [string, number]; value: { stretch: string; n: number; cue: Cue }; indexes: { stretch: string } }
  /** A stretch's first pictures, small, until the server has them. */
  faces: { key: string; value: { stretch: string; print: ArrayBuffer } }
  /** What was said last, as long as its recording may not have come so far. */
  tails: { key: [string, number]; value: VoicePart; indexes: { stretch: string } }
  /** Full-size pictures of a window at rest. */
  stills: { key: [string, number]; value: Still & { readonly stretch: string }; indexes: { stretch: string } }
}

/** A piece of a stretch's voice as its microphone gave it. */
export interface VoicePart {
  readonly stretch: string
  readonly n: number
  /** When its first sample was captured, in ms of the stretch. */
  readonly at: number
  /** Samples a second. */
  readonly rate: number
  /** Of 16 bits. */
  readonly samples: ArrayBuffer
}

/** Stores of what belongs to a stretch. */
const PARTS = ['chunks', 'cues', 'prints', 'tails', 'stills'] as const

let opened: Promise<IDBPDatabase<Schema>> | undefined

/** What was kept before chunks were called so. */
interface OldSchema extends DBSchema {
  slices: { key: [string, number]; value: Schema['chunks']['value'] }
  stretches: {
    key: string
    value: { readonly id: string; readonly closing: { readonly slices: number; readonly cues: number; readonly length: Ms } | null }
  }
}

/** Takes that were kept under the old name are found under the new one. */
async function withChunks(old: IDBPTransaction<OldSchema, ('slices' | 'stretches')[], 'versionchange'>): Promise<void> {
  unwrap(old).objectStore('slices').name = 'chunks'
  const stretches = unwrap(old).objectStore('stretches')
  for (const kept of await old.objectStore('stretches').getAll()) {
    if (kept.closing === null) continue
    const { slices: chunks, ...closing } = kept.closing
    stretches.put({ ...kept, closing: { ...closing, chunks } })
  }
}

/** This browser's own store of takes. */
export const localTakes = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('aisle-takes', 7, {
    async upgrade(db, before, _, transaction) {
      if (before < 7) db.createObjectStore('stills', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
      if (before < 5) db.createObjectStore('aside', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
      if (before < 4) db.createObjectStore('faces', { keyPath: 'stretch' })
      if (before < 3) db.createObjectStore('tails', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
      if (before < 2) db.createObjectStore('prints', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
      if (before > 0) {
        // An older store is read as what it was (as the library's own documentation does).
        if (before < 6) await withChunks(transaction as unknown as Parameters<typeof withChunks>[0])
        return
      }
      db.createObjectStore('takes', { keyPath: 'id' }).createIndex('talk', 'talk')
      db.createObjectStore('stretches', { keyPath: 'id' }).createIndex('take', 'take')
      db.createObjectStore('chunks', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
      db.createObjectStore('cues', { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
    },
  }))

/** Keeps records together; when this returns they are on the disk, as far as the browser can tell. */
export async function keepLocally<Name extends 'takes' | 'stretches' | 'faces' | (typeof PARTS)[number]>(
  store: Name,
  ...values: readonly Schema[Name]['value'][]
): Promise<void> {
  const transaction = (await localTakes()).transaction(store, 'readwrite', { durability: 'strict' })
  const puts = values.map((value) => transaction.store.put(value))
  // Said at once: the browser need not ask this page, which may be busy or gone by then, whether there is more.
  transaction.commit()
  await Promise.all([...puts, transaction.done])
}

/** Keeps chunks of a stretch's recording. */
export const keepChunks = (stretch: string, chunks: readonly Omit<Schema['chunks']['value'], 'stretch'>[]): Promise<void> =>
  keepLocally('chunks', ...chunks.map(({ n, bytes, digest }) => ({ stretch, n, bytes, digest })))

/** Keeps a recording's first pictures, small. */
export const keepFace = (stretch: string, pictures: readonly SmallPicture[]): Promise<void> =>
  keepLocally('faces', { stretch, print: packVideoFingerprint(pictures).buffer })

/** Keeps a piece of a stretch's voice, and lets go of those before a number, which its recording holds by now. */
export async function keepTail(part: VoicePart, before: number): Promise<void> {
  const transaction = (await localTakes()).transaction('tails', 'readwrite', { durability: 'strict' })
  const kept = transaction.store.put(part)
  // There is no range of nothing: asking for one throws.
  const gone = before > 0 ? transaction.store.delete(IDBKeyRange.bound([part.stretch, 0], [part.stretch, before], false, true)) : null
  transaction.commit()
  await Promise.all([kept, gone, transaction.done])
}

/** Forgets a take and all that belongs to it. */
export async function forgetTake(id: string): Promise<void> {
  const db = await localTakes()
  const stretches = await db.getAllKeysFromIndex('stretches', 'take', id)
  const transaction = db.transaction(['takes', 'stretches', 'faces', ...PARTS], 'readwrite')
  await transaction.objectStore('takes').delete(id)
  for (const stretch of stretches) {
    await transaction.objectStore('stretches').delete(stretch)
    await transaction.objectStore('faces').delete(stretch)
    for (const name of PARTS) {
      for (const key of await transaction.objectStore(name).index('stretch').getAllKeys(stretch))
        await transaction.objectStore(name).delete(key)
    }
  }
  await transaction.done
}
