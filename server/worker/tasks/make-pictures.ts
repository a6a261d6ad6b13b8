import { createHash } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { contentOfSegment, costOfSegment, runsOf } from '@core/plan'
import type { RenderPlan, Run, Segment } from '@core/plan'
import { slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { probe } from '@render/probe'
import { CODECS, FilmPainter, PictureSource, makeSegment, settingOf } from '@render/video'
import type { CameraFile, Coding, JoinPart } from '@render/video'
import { databasePool } from '@server/database'
import { log } from '@server/log'
import { SegmentClaims } from './segment-claims'
import { assetPath, foundInCache, recordingPath, segmentFolder, writeWhole } from '@server/store'

function titleOf(index: FilmIndex, segment: Segment): string {
  const piece = index.film.programme.pieces[segment.piece]
  return piece === undefined ? '' : slideOf(index.film, piece.slide).title
}

/** A segment could not be made; says where, for the person. */
export class SegmentFailed extends Error {
  readonly slide: string

  constructor(slide: string, cause: unknown) {
    super(`the part on “${slide}” could not be made`, { cause })
    this.slide = slide
  }
}

const cameras = (): (stretch: string) => Promise<CameraFile> => {
  const known = new Map<string, Promise<CameraFile>>()
  const find = async (stretch: string): Promise<CameraFile> => {
    const path = recordingPath(stretch)
    const video = (await probe(path)).streams.find((stream) => stream.codec_type === 'video')
    return { path, size: { width: video?.width ?? 2, height: video?.height ?? 2 } }
  }
  return (stretch) => {
    const found = known.get(stretch) ?? find(stretch)
    known.set(stretch, found)
    return found
  }
}

/** A part of the film that is there, and how many of its frames were encoded for it now. */
export interface MadePart extends JoinPart {
  readonly encoded: number
  /** ms that making it took here; 0 when it was there or another worker made it. */
  readonly took: number
}

/** How often it is looked whether another worker has made a part, in ms. */
const LOOK_AGAIN = 200

/** Who hears of pictures as they are made, and may have that stop. */
export interface PictureWatch {
  readonly signal: AbortSignal
  /** So many frames of a segment that is being made are done. */
  readonly within: (segment: Segment, frames: number) => void
  /** A segment is there, made now or found made. @throws Error when the making is to stop */
  readonly finished: (segment: Segment) => Promise<void>
  readonly throwIfCancelled: () => void
  /** Has all that is under way end at its next step. */
  readonly halt: () => void
}

/** How pictures are made. */
export interface PictureManner {
  /** Tells apart what several make at a time. */
  readonly label: string
  /** File for the picture that is being made, to be looked at; null: none. */
  readonly look: string | null
  /** Segments made at the same time. */
  readonly lanes: number
  /** Long parts first, so that no lane is left alone with one at the end. Whoever helps begins with the short ones: two meet in the middle. */
  readonly first: 'long' | 'short'
  /** How much others are let go first, 0 to 19. */
  readonly niceness: number
}

/**
 * Makes the segments that are not there yet, one on each core: an encoder with one thread wastes less than one with
 * two, and while one segment begins or is checked the other goes on. What is finished stays, whatever happens to the rest; what
 * another worker is making is left to it.
 */
export async function makePictures(index: FilmIndex, plan: RenderPlan, coding: Coding, progress: PictureWatch, { label, look, lanes, first, niceness }: PictureManner): Promise<readonly MadePart[]> {
  const setting = settingOf(plan.size, plan.frame, plan.rate, coding)
  const pictures = new PictureSource(assetPath)
  const cameraOf = cameras()
  await mkdir(segmentFolder(), { recursive: true })
  const claims = await SegmentClaims.open(databasePool())
  const order = [...plan.segments.entries()]
    .map(([number, segment]) => ({ number, segment, cost: costOfSegment(segment, plan) }))
    .sort((a, b) => (first === 'long' ? b.cost - a.cost : a.cost - b.cost))
  /** What is still to be looked at, and what another worker was making when it was. */
  const todo = order.values()
  const elsewhere: (typeof order)[number][] = []
  const parts: MadePart[] = []

  const make = async (segment: Segment, runs: readonly Run[], file: string, painter: FilmPainter): Promise<void> => {
    const part = `${file}.${label}.part`
    try {
      const manner = await makeSegment({
        segment, runs, size: plan.size, frame: plan.frame, rate: plan.rate, coding, threads: 1, niceness,
        camera: segment.inset === null ? null : await cameraOf(segment.inset.stretch),
        out: part, signal: progress.signal,
        onLook: look === null ? null : (picture) => { void writeWhole(look, picture).catch(() => undefined) },
        onFrames: (frames) => { progress.within(segment, frames) },
      }, painter)
      log.debug({ kind: segment.kind, frames: segment.frames, manner }, 'part made')
      await rename(part, file)
    } catch (error) {
      progress.throwIfCancelled()
      throw new SegmentFailed(titleOf(index, segment), error)
    } finally {
      await rm(part, { force: true })
    }
  }

  /** Makes a part unless it is there. @returns ms that it took, 0 when it was there; null when another worker is making it */
  const makeUnlessThere = async (segment: Segment, runs: readonly Run[], key: string, file: string, painter: FilmPainter): Promise<number | null> => {
    if (await foundInCache(file)) return 0
    const release = await claims.hold(key)
    if (release === null) return null
    try {
      if (await foundInCache(file)) return 0
      const began = performance.now()
      await make(segment, runs, file, painter)
      return performance.now() - began
    } finally {
      await release()
    }
  }

  // Parts of the film that look the same have one key; whoever comes second waits for the first. It is noted before anything is
  // waited for, or two lanes would both begin.
  const making = new Map<string, Promise<number | null>>()
  const makeOne = async (segment: Segment, painter: FilmPainter): Promise<MadePart | null> => {
    const runs = runsOf(index, segment, plan.rate)
    const key = createHash('sha256').update(contentOfSegment(segment, runs, setting)).digest('hex')
    const file = join(segmentFolder(), `${key}.${CODECS[coding.format].stream}`)
    const second = making.has(key)
    const made = making.get(key) ?? makeUnlessThere(segment, runs, key, file, painter)
    making.set(key, made)
    const took = await made
    if (took === null) {
      making.delete(key)
      return null
    }
    return { file, still: segment.kind === 'still', frames: segment.frames, encoded: took > 0 && !second ? segment.frames : 0, took: second ? 0 : took }
  }

  const lane = async (): Promise<void> => {
    const painter = new FilmPainter(plan.size, pictures)
    for (const one of todo) {
      const { number, segment } = one
      const made = await makeOne(segment, painter)
      if (made === null) {
        elsewhere.push(one)
        continue
      }
      parts[number] = made
      await progress.finished(segment)
    }
    // What another worker makes is waited for; should it have died, its parts are free again.
    for (let next = elsewhere.shift(); next !== undefined; next = elsewhere.shift()) {
      const { number, segment } = next
      for (let made = await makeOne(segment, painter); ; made = await makeOne(segment, painter)) {
        if (made !== null) {
          parts[number] = made
          break
        }
        await new Promise((resolve) => { setTimeout(resolve, LOOK_AGAIN) })
        progress.throwIfCancelled()
      }
      await progress.finished(segment)
    }
  }

  const running = Array.from({ length: lanes }, lane)
  try {
    await Promise.all(running)
  } catch (error) {
    // The other lanes end at their next step; pictures may go only then.
    progress.halt()
    await Promise.allSettled(running)
    throw error
  } finally {
    claims.close()
    await pictures.close()
  }
  return parts
}
