import { createHash } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { contentOfSegment, runsOf } from '@core/plan'
import type { RenderPlan, Run, Segment } from '@core/plan'
import { slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { CODECS, FilmPainter, PictureSource, makeSegments, makeStills, settingOf } from '@render/video'
import type { Coding, JoinPart } from '@render/video'
import { log } from '@server/log'
import { assetPath, foundInCache, segmentFolder, writeWhole } from '@server/store'
import { claims } from '../claims'
import { camerasOf } from './cameras-of'
import { pictureJobs, togetherAs } from './picture-jobs'
import type { Numbered } from './picture-jobs'

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

/** A segment with all that decides its pixels. */
interface Wanted extends Numbered {
  readonly runs: readonly Run[]
  readonly key: string
  readonly file: string
}

/**
 * Makes the segments that are not there yet, one on each core: an encoder with one thread wastes less than one with
 * two, and while one segment begins or is checked the other goes on. What is finished stays, whatever happens to the rest; what
 * another worker is making is left to it.
 */
export async function makePictures(index: FilmIndex, plan: RenderPlan, coding: Coding, progress: PictureWatch, { label, look, lanes, first, niceness }: PictureManner): Promise<readonly MadePart[]> {
  const setting = settingOf(plan.size, plan.frame, plan.rate, coding)
  const pictures = new PictureSource(assetPath)
  const cameraOf = camerasOf()
  await mkdir(segmentFolder(), { recursive: true })
  /** What is still to be looked at, and what another worker was making when it was. */
  const todo = pictureJobs(plan, coding, lanes, first).values()
  const elsewhere: Numbered[] = []
  const parts: MadePart[] = []
  const shared = { size: plan.size, frame: plan.frame, rate: plan.rate, coding, niceness, signal: progress.signal }
  const onLook = look === null ? null : (picture: Buffer) => { void writeWhole(look, picture).catch(() => undefined) }
  const partOf = (file: string): string => `${file}.${label}.part`

  const wantedOf = ({ number, segment }: Numbered): Wanted => {
    const runs = runsOf(index, segment, plan.rate)
    const key = createHash('sha256').update(contentOfSegment(segment, runs, setting)).digest('hex')
    return { number, segment, runs, key, file: join(segmentFolder(), `${key}.${CODECS[coding.format].stream}`) }
  }

  const makeMoving = async (wanted: readonly Wanted[], painter: FilmPainter): Promise<void> => {
    const manners = await makeSegments(await Promise.all(wanted.map(async ({ segment, runs, file }) => ({
      ...shared, segment, runs, out: partOf(file), onLook,
      camera: segment.inset === null ? null : await cameraOf(segment.inset.stretch),
      onFrames: (frames: number) => { progress.within(segment, frames) },
    }))), painter)
    log.debug({ kinds: wanted.map(({ segment }) => segment.kind), manners }, 'parts made')
  }

  /** @returns false when it was seen that they cannot be made like this */
  const makeStanding = async (wanted: readonly Wanted[], painter: FilmPainter): Promise<boolean> => {
    if (!await makeStills(shared, wanted.flatMap(({ runs: [run], file }) => (run === undefined ? [] : [{ scene: run.scene, out: partOf(file) }])), painter)) return false
    await painter.showTo(onLook)
    return true
  }

  const make = async (wanted: readonly Wanted[], painter: FilmPainter): Promise<void> => {
    const [one] = wanted
    if (one === undefined) return
    try {
      const standing = wanted.every(({ segment }) => togetherAs(segment, coding) === 'still')
      if (!standing || !await makeStanding(wanted, painter)) await makeMoving(wanted, painter)
      await Promise.all(wanted.map(({ file }) => rename(partOf(file), file)))
    } catch (error) {
      progress.throwIfCancelled()
      if (wanted.length === 1) throw new SegmentFailed(titleOf(index, one.segment), error)
      log.warn({ error: String(error) }, 'parts could not be made together')
      // One by one, so that it is seen which of them cannot be.
      for (const each of wanted) await make([each], painter)
    } finally {
      await Promise.all(wanted.map(({ file }) => rm(partOf(file), { force: true })))
    }
  }

  /** Makes what is not there. @returns ms that each took, 0 when it was there; null when another worker is making it */
  const makeUnlessThere = async (wanted: readonly Wanted[], painter: FilmPainter): Promise<ReadonlyMap<string, number | null>> => {
    const took = new Map<string, number | null>()
    const missing: Wanted[] = []
    const held: (() => Promise<void>)[] = []
    try {
      for (const one of wanted) {
        const release = await foundInCache(one.file) ? undefined : await claims().hold(`part:${one.key}`)
        if (release) held.push(release)
        // Another worker may have made it before the claim was given.
        if (release === null) took.set(one.key, null)
        else if (release === undefined || await foundInCache(one.file)) took.set(one.key, 0)
        else missing.push(one)
      }
      const began = performance.now()
      await make(missing, painter)
      for (const { key } of missing) took.set(key, (performance.now() - began) / missing.length)
      return took
    } finally {
      for (const release of held) await release()
    }
  }

  // Parts of the film that look the same have one key; whoever comes second waits for the first. It is noted before anything is
  // waited for, or two lanes would both begin.
  const making = new Map<string, Promise<number | null>>()
  /** @returns those that another worker is making */
  const makeAll = async (job: readonly Numbered[], painter: FilmPainter): Promise<readonly Numbered[]> => {
    const wanted = job.map(wantedOf)
    const firsts = wanted.filter(({ key }, n) => !making.has(key) && wanted.findIndex((other) => other.key === key) === n)
    const began = makeUnlessThere(firsts, painter)
    for (const { key } of firsts) {
      const made = began.then((took) => took.get(key) ?? null)
      // The first of them to fail ends this lane; of the others nobody need hear.
      made.catch(() => undefined)
      making.set(key, made)
    }
    const left: Numbered[] = []
    for (const one of wanted) {
      const { number, segment, key, file } = one
      const took = await making.get(key) ?? null
      if (took === null) {
        making.delete(key)
        left.push({ number, segment })
        continue
      }
      const mine = firsts.includes(one)
      parts[number] = { file, still: segment.kind === 'still', frames: segment.frames, encoded: took > 0 && mine ? segment.frames : 0, took: mine ? took : 0 }
      await progress.finished(segment)
    }
    return left
  }

  const lane = async (): Promise<void> => {
    const painter = new FilmPainter(plan.size, pictures)
    for (const job of todo) elsewhere.push(...await makeAll(job, painter))
    // What another worker makes is waited for; should it have died, its parts are free again.
    for (let next = elsewhere.shift(); next !== undefined; next = elsewhere.shift()) {
      while ((await makeAll([next], painter)).length > 0) {
        await new Promise((resolve) => { setTimeout(resolve, LOOK_AGAIN) })
        progress.throwIfCancelled()
      }
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
    await pictures.close()
  }
  return parts
}
