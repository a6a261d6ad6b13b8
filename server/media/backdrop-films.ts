import { createHash } from 'node:crypto'
import { readFile, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import pLimit from 'p-limit'
import { clothColour } from '@core/camera'
import type { Colour } from '@core/camera'
import { Refusal } from '@core/model'
import type { Ms, NewBackdrop } from '@core/model'
import {
  BACKDROP,
  NO_CLOTH,
  OUTLINES,
  OUTLINE_PART,
  OUTLINE_SIZE,
  backdropStill,
  behindPicture,
  cameraJpeg,
  findOutline,
  lookedAt,
  makeBackdropFilm,
} from '@render/backdrop'
import type { BackdropStill } from '@render/backdrop'
import type { CameraFile } from '@render/video'
import { apartBounds } from '@server/settings'
import { assetHere, foundInCache, segmentFolder } from '@server/store'
import { cameraOf } from './cameras-of'
import { CacheMaker, madeInCache } from './made-in-cache'
import { nicenessOf } from './niceness'

/** What finding a part's outlines may take, and making a film of a recording of some length, in ms: so much, and so much of its length. */
const FINDING = 300_000
const MAKING = { beside: 120_000, share: 4 } as const
/** How much of the work it is to find outlines where none are known. */
const FOUND = 0.4
/** Parts whose outlines are found at a time: each takes a processor. */
const AT_ONCE = 2
/** How long one picture may take. */
const STILL = 60_000

const nameOf = (...all: readonly unknown[]): string => createHash('sha256').update(JSON.stringify(all)).digest('hex')

/** What a recording's film with a backdrop is called: it says all that decides it. */
export const backdropName = (stretch: string, backdrop: NewBackdrop): string => {
  const { finder, kind } = backdrop
  const found = finder === 'outline' ? OUTLINES : 0
  const seen = kind === 'plain' ? backdrop.colour : kind === 'picture' && backdrop.asset
  return nameOf('backdrop', BACKDROP, found, stretch, finder, kind, seen)
}
export const backdropPath = (stretch: string, backdrop: NewBackdrop): string =>
  join(segmentFolder(), `${backdropName(stretch, backdrop)}.mp4`)
const outlinePath = (stretch: string, part: number): string => join(segmentFolder(), `${nameOf('outline', OUTLINES, stretch, part)}.h264`)

export interface MakeBackdrop {
  readonly stretch: string
  readonly backdrop: NewBackdrop
  readonly signal?: AbortSignal
  /** Hears how much is done, 0 to 1, and how much of that was there before. */
  readonly onShare?: (share: number, found: number) => void
}

/** Finds the outlines of a recording that are not known yet, and puts all of them into one file. @returns share of them that was there */
async function outlinesOf(camera: CameraFile, length: Ms, out: string, { stretch, signal, onShare }: MakeBackdrop): Promise<number> {
  const parts = Math.max(1, Math.ceil(length / OUTLINE_PART))
  let [known, done] = [0, 0]
  const find = async (part: number): Promise<Buffer> => {
    signal?.throwIfAborted()
    const path = outlinePath(stretch, part)
    const apart = { ...apartBounds(), time: FINDING, niceness: nicenessOf('backdrop'), signal }
    if (await foundInCache(path)) known += 1
    else await madeInCache(path, (file) => findOutline({ camera, part, out: file, apart }))
    done += 1
    onShare?.((FOUND * done) / parts, (FOUND * known) / parts)
    return await readFile(path)
  }
  const limit = pLimit(AT_ONCE)
  const found = await Promise.all(Array.from({ length: parts }, (_, part) => limit(() => find(part))))
  await writeFile(out, Buffer.concat(found), { mode: 0o600 })
  return known / parts
}

async function clothOf(camera: CameraFile): Promise<Colour> {
  const cloth = clothColour(await lookedAt(camera, 0), OUTLINE_SIZE.width, OUTLINE_SIZE.height)
  if (cloth === null) throw new Refusal('unreadable', NO_CLOTH)
  return cloth
}

async function makeFilm(wanted: MakeBackdrop, out: string): Promise<void> {
  const { stretch, backdrop, signal, onShare } = wanted
  const { length, ...camera } = await cameraOf(stretch)
  const byOutline = backdrop.finder === 'outline'
  const [outlines, picture] = [`${out}.outlines`, `${out}.png`]
  try {
    const cloth = byOutline ? null : await clothOf(camera)
    const known = byOutline ? FOUND * (await outlinesOf(camera, length, outlines, wanted)) : 0
    if (backdrop.kind === 'picture')
      await writeFile(picture, await behindPicture(await assetHere(backdrop.asset), camera.size), { mode: 0o600 })
    const begins = byOutline ? FOUND : 0
    await makeBackdropFilm({
      camera,
      backdrop,
      outlines: byOutline ? outlines : null,
      picture: backdrop.kind === 'picture' ? picture : null,
      cloth,
      out,
      time: MAKING.beside + length * MAKING.share,
      niceness: nicenessOf('backdrop'),
      signal,
      onTime: (at) => {
        onShare?.(Math.min(1, begins + ((1 - begins) * at) / Math.max(1, length)), known)
      },
    })
  } finally {
    await Promise.all([rm(outlines, { force: true }), rm(picture, { force: true })])
  }
}

/**
 * A recording's film with a backdrop; it is made if it is not there. What was found of outlines is kept: begun again, it goes on there.
 * @throws Refusal `unreadable` when there is no cloth behind who is to be told by one; ProcessFailed when it cannot be made
 */
export const makeBackdrop = (wanted: MakeBackdrop): Promise<string> =>
  madeInCache(backdropPath(wanted.stretch, wanted.backdrop), (out) => makeFilm(wanted, out))

const maker = new CacheMaker(1)

/** As `makeBackdrop`, once for all who ask this process meanwhile. */
export const backdropFilm = (stretch: string, backdrop: NewBackdrop): Promise<string> =>
  maker.fileAt(backdropPath(stretch, backdrop), (out) => makeFilm({ stretch, backdrop }, out))

const stillBounds = () => ({ ...apartBounds(), time: STILL })
const behindOf = async (backdrop: NewBackdrop): Promise<string | null> =>
  backdrop.kind === 'picture' ? await assetHere(backdrop.asset) : null

/** What a recording would look like with a backdrop, in one picture. @param at ms into it */
export async function stillOfRecording(stretch: string, at: Ms, backdrop: NewBackdrop): Promise<BackdropStill> {
  const jpeg = await cameraJpeg(await cameraOf(stretch), at)
  return await backdropStill({ jpeg, backdrop, behind: await behindOf(backdrop), apart: stillBounds() })
}

/** As `stillOfRecording`, of a picture that was sent. @throws Refusal `malformed` when it is none */
export const stillOfPicture = (jpeg: Buffer, backdrop: NewBackdrop): Promise<BackdropStill> =>
  backdropStill({ jpeg, backdrop, behind: null, apart: stillBounds() })
