import { randomUUID } from 'node:crypto'
import { readdir, rm, statfs, utimes, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Refusal } from '@core/model'
import { settings } from '@server/settings'
import { here, putAllUnder, putUnder, refreshed, removeTree } from './local-copies'
import type { StagedFile } from './local-copies'
import { digestOf, digestOfFile, safeFolder } from './safe-files'
import { stores, workingFolder } from './stores'

/** Places in the media store. Every name in a path has been checked: an id, a digest or a number. */
const SAFE = /^[0-9a-z][0-9a-z.-]*$/

function place(...parts: readonly string[]): string {
  for (const part of parts) if (!SAFE.test(part) || part.includes('..')) throw new Error(`not a name for the store: ${part}`)
  return join(workingFolder(), ...parts)
}

export const assetPath = (digest: string): string => place('assets', digest.slice(0, 2), digest)
/** The folder of a recording's chunks; called so in stores that are there already. */
export const CHUNKS = 'slices'
export const stretchFolder = (stretch: string): string => place('stretches', stretch)
/** The parts that its recording comes in. */
export const chunkFolder = (stretch: string): string => place('stretches', stretch, CHUNKS)
export const chunkPath = (stretch: string, n: number): string => place('stretches', stretch, CHUNKS, String(n).padStart(7, '0'))
/** The recording as it came, all of it one after the other. It is never changed; all else is made from it. */
export const rawPath = (stretch: string): string => place('stretches', stretch, 'raw.webm')
/** Its sound in its own time, while its stretch is not ready: 48 kHz mono samples of 16 bits. */
export const decodedPath = (stretch: string): string => place('stretches', stretch, 'decoded.pcm')
/** What was found while the recording and its sound were written; see `Reading`. */
export const readingPath = (stretch: string): string => place('stretches', stretch, 'reading.json')
/** A short print of its microphone. */
export const printPath = (stretch: string, n: number): string => place('stretches', stretch, `print-${String(n)}.pcm`)
/** A stretch's first pictures, small. */
export const facePath = (stretch: string): string => place('stretches', stretch, 'face.bin')
/** What was said last in a stretch that was cut off, beyond what its recording holds. */
export const tailPath = (stretch: string): string => place('stretches', stretch, 'tail.pcm')
/** A full-size picture of a window at rest. */
export const stillPath = (stretch: string, n: number): string => place('stretches', stretch, `still-${String(n)}.png`)
/** Where a clip is made of what was recorded of a window. */
export const capturedFolder = (stretch: string): string => place('stretches', stretch, 'captured')
/** The recording in the stretch's own time, with an index so that it can be sought in. */
export const recordingPath = (stretch: string): string => place('stretches', stretch, 'recording.webm')
/** Its voice: 48 kHz mono samples of 16 bits that begin where the stretch begins. */
export const voicePath = (stretch: string): string => place('stretches', stretch, 'voice.pcm')
/** A sound file that was brought in as a stretch's voice, as it came. */
export const broughtPath = (stretch: string): string => place('stretches', stretch, 'brought')
export const segmentFolder = (): string => place('segments')
export const deliveryFolder = (delivery: string): string => place('deliveries', delivery)
export const deliveryPath = (delivery: string): string => place('deliveries', delivery, 'film.mp4')
/** The frame last drawn for a delivery, for the page to show. */
export const previewPath = (delivery: string): string => place('deliveries', delivery, 'preview.jpg')
/** A talk as films for those who watch it, by version and lines. */
export const streamFolder = (talk: string): string => place('streams', talk)
export const streamPath = (talk: string, revision: number, lines: number): string =>
  place('streams', talk, `${String(revision)}-${String(lines)}.mp4`)
/** The same with its sound, as one file. */
export const wholeStreamPath = (talk: string, revision: number): string => place('streams', talk, `${String(revision)}-whole.mp4`)
/** Takes a version out that nobody watches any more. */
export async function removeStream(talk: string, revision: number, lines: readonly number[]): Promise<void> {
  const files = [...lines.map((one) => streamPath(talk, revision, one)), wholeStreamPath(talk, revision)]
  await Promise.all(files.map(removeTree))
}
/** What is made of a talk to be taken along. */
export const exportFolder = (id: string): string => place('exports', id)
export const exportPath = (id: string): string => place('exports', id, 'file')
/** What was handed in for a call. */
export const entryFolder = (entry: string): string => place('entries', entry)
export const uploadFolder = (): string => place('uploads')

/** Bytes, and where they are to stand. */
export interface PlacedBytes {
  readonly path: string
  readonly bytes: Uint8Array
}

/** Puts bytes under names, each so that they are there whole or not at all, also after a power cut. */
export async function writeAllWhole(files: readonly PlacedBytes[]): Promise<void> {
  for (const folder of new Set(files.map(({ path }) => dirname(path)))) await safeFolder(folder)
  const written = files.map(({ path, bytes }) => ({ path, bytes, temporary: `${path}.${randomUUID()}.part` }))
  await Promise.all(written.map(({ temporary, bytes }) => writeFile(temporary, bytes, { flush: true })))
  await putAllUnder(written)
}

/** The same for one. */
export const writeWhole = (path: string, bytes: Uint8Array): Promise<void> => writeAllWhole([{ path, bytes }])

/** What tells this store from others. */
export const identityPath = (): string => place('identity')

/** A file of a talk by its digest, on this machine. */
export const assetHere = (digest: string): Promise<string> => here(assetPath(digest))

/** Keeps bytes under their digest. Keeping the same bytes twice is keeping them once. */
export async function keepAsset(bytes: Uint8Array): Promise<string> {
  const digest = digestOf(bytes)
  // Touched, so that what nobody referred to until now does not go just when somebody does.
  if (!(await refreshed(assetPath(digest)))) await writeWhole(assetPath(digest), bytes)
  return digest
}

/** Moves a staged file in under its digest. @param path where it was staged from */
export async function keepStaged(path: string, digest: string, staged: StagedFile): Promise<void> {
  const target = assetPath(digest)
  await safeFolder(dirname(target))
  await utimes(path, new Date(), new Date())
  await staged.putUnder(target)
}

/** Moves a finished file in under its digest. */
export async function keepFile(path: string): Promise<string> {
  const digest = await digestOfFile(path)
  const target = assetPath(digest)
  await safeFolder(dirname(target))
  await utimes(path, new Date(), new Date())
  await putUnder(path, target)
  return digest
}

/** Removes what somebody began to write in a folder and did not finish. */
export async function removeParts(folder: string): Promise<void> {
  for (const name of await readdir(folder)) if (name.endsWith('.part')) await rm(join(folder, name), { force: true })
}

/** Less room than this is none, in bytes: whatever writes is about to fail. */
const NO_ROOM = 4_000_000

/** Room that is left where media are kept, in bytes. */
export async function roomLeft(): Promise<number> {
  const { bavail, bsize } = await statfs(settings().data)
  return bavail * bsize
}

/** How large the disk is on which media are kept, in bytes. */
export async function wholeRoom(): Promise<number> {
  const { blocks, bsize } = await statfs(settings().data)
  return blocks * bsize
}

/**
 * Looks whether there is room for what somebody wants to bring in. Recordings are let in as long as there is any.
 * @throws Refusal `unavailable` saying so, before any of it is taken
 */
export async function roomForUpload(bytes: number): Promise<void> {
  if ((await roomLeft()) - bytes < settings().freeFloor) {
    throw new Refusal(
      'unavailable',
      'The server has no room for this. What is there is safe, and recording goes on; delete talks or files that are no longer ' +
        'needed, or tell whoever runs the server.',
    )
  }
}

/** Whether files can be put there. */
export const isWritable = (): Promise<boolean> => stores().store.isWritable()

/** Whether there is room for what can be made later as well. */
export const roomForWork = async (): Promise<boolean> => (await roomLeft()) >= settings().freeFloor

/** Whether there is none. */
export const storeIsFull = async (): Promise<boolean> => (await roomLeft()) < NO_ROOM
