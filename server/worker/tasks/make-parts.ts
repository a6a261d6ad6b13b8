import { createHash } from 'node:crypto'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { contentOfSegment, runsOf } from '@core/plan'
import type { Stroke } from '@core/model'
import type { RenderPlan, Run, Segment } from '@core/plan'
import { slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { CODECS, makeSegments, makeStills, settingOf } from '@render/video'
import type { Coding, FilmPainter } from '@render/video'
import { log } from '@server/log'
import { foundInCache, putUnder, segmentFolder, writeWhole } from '@server/store'
import { claims } from '../claims'
import { camerasOf, nicenessOf } from '@server/media'
import type { FindCamera } from '@server/media'
import { backdropAlone } from './make-backdrop'
import { togetherAs } from './picture-jobs'
import type { Numbered } from './picture-jobs'
import type { EncodeOptions, PictureWatch } from './encode-options'

/** A segment could not be made; says where, for the person. */
export class SegmentFailed extends Error {
  readonly slide: string

  constructor(slide: string, cause: unknown) {
    super(`the part on “${slide}” could not be made`, { cause })
    this.slide = slide
  }
}

/** A segment with all that decides its pixels. */
export interface Wanted extends Numbered {
  readonly runs: readonly Run[]
  readonly key: string
  readonly file: string
}

/** What a stroke is called in keys: hashed once, since every part after it shows it. */
const strokeNames = new WeakMap<Stroke, string>()
function nameOfStroke(stroke: Stroke): string {
  const known = strokeNames.get(stroke)
  if (known !== undefined) return known
  const name = createHash('sha256').update(JSON.stringify(stroke)).digest('base64url')
  strokeNames.set(stroke, name)
  return name
}

/** Makes segments of one film and puts them into the cache under their keys. */
export class PartMaker {
  readonly #index: FilmIndex
  readonly #plan: RenderPlan
  readonly #coding: Coding
  readonly #setting: string
  readonly #watch: PictureWatch
  readonly #options: EncodeOptions
  readonly #cameraOf: FindCamera

  constructor(index: FilmIndex, plan: RenderPlan, coding: Coding, watch: PictureWatch, options: EncodeOptions) {
    this.#index = index
    this.#plan = plan
    this.#coding = coding
    this.#setting = settingOf(plan.size, plan.frame, plan.fps, coding)
    this.#watch = watch
    this.#options = options
    this.#cameraOf = camerasOf((stretch, backdrop) => backdropAlone({ stretch, backdrop, signal: watch.signal }))
  }

  wanted({ number, segment }: Numbered): Wanted {
    const runs = runsOf(this.#index, segment, this.#plan.fps)
    const key = createHash('sha256')
      .update(contentOfSegment(segment, runs, this.#setting, nameOfStroke))
      .digest('hex')
    return { number, segment, runs, key, file: join(segmentFolder(), `${key}.${CODECS[this.#coding.format].stream}`) }
  }

  /**
   * Makes what is not there.
   * @returns ms that each took by its key, 0 when it was there, null when another worker is making it
   * @throws SegmentFailed naming the slide of one that cannot be made
   */
  async makeUnlessThere(wanted: readonly Wanted[], painter: FilmPainter): Promise<ReadonlyMap<string, number | null>> {
    const took = new Map<string, number | null>()
    const missing: Wanted[] = []
    const held: (() => Promise<void>)[] = []
    try {
      for (const one of wanted) {
        const release = (await foundInCache(one.file)) ? undefined : await claims().hold(`part:${one.key}`)
        if (release) held.push(release)
        // Another worker may have made it before the claim was given.
        if (release === null) took.set(one.key, null)
        else if (release === undefined || (await foundInCache(one.file))) took.set(one.key, 0)
        else missing.push(one)
      }
      const began = performance.now()
      await this.#make(missing, painter)
      for (const { key } of missing) took.set(key, (performance.now() - began) / missing.length)
      return took
    } finally {
      for (const release of held) await release()
    }
  }

  async #make(wanted: readonly Wanted[], painter: FilmPainter): Promise<void> {
    const [one] = wanted
    if (one === undefined) return
    try {
      const standing = wanted.every(({ segment }) => togetherAs(segment, this.#coding) === 'still')
      if (!standing || !(await this.#makeStanding(wanted, painter))) await this.#makeMoving(wanted, painter)
      await Promise.all(wanted.map(({ file }) => putUnder(this.#partOf(file), file)))
    } catch (error) {
      this.#watch.throwIfCancelled()
      if (wanted.length === 1) throw new SegmentFailed(this.#titleOf(one.segment), error)
      log.warn({ error: String(error) }, 'parts could not be made together')
      // One by one, so that it is seen which of them cannot be.
      for (const each of wanted) await this.#make([each], painter)
    } finally {
      await Promise.all(wanted.map(({ file }) => rm(this.#partOf(file), { force: true })))
    }
  }

  async #makeMoving(wanted: readonly Wanted[], painter: FilmPainter): Promise<void> {
    const paths = await makeSegments(
      await Promise.all(
        wanted.map(async ({ segment, runs, file }) => ({
          ...this.#shared,
          segment,
          runs,
          out: this.#partOf(file),
          onLook: this.#onLook,
          camera: segment.inset === null ? null : await this.#cameraOf(segment.inset.stretch, segment.inset.backdrop),
          onFrames: (frames: number) => {
            this.#watch.within(segment, frames)
          },
        })),
      ),
      painter,
    )
    log.debug({ kinds: wanted.map(({ segment }) => segment.kind), paths }, 'parts made')
  }

  /** @returns false when it was seen that they cannot be made like this */
  async #makeStanding(wanted: readonly Wanted[], painter: FilmPainter): Promise<boolean> {
    if (
      !(await makeStills(
        this.#shared,
        wanted.flatMap(({ runs: [run], file }) => (run === undefined ? [] : [{ scene: run.scene, out: this.#partOf(file) }])),
        painter,
      ))
    )
      return false
    await painter.showTo(this.#onLook)
    return true
  }

  get #shared() {
    const { size, frame, fps } = this.#plan
    return { size, frame, fps, coding: this.#coding, niceness: nicenessOf('film'), signal: this.#watch.signal }
  }

  get #onLook(): ((picture: Buffer) => void) | null {
    const { preview } = this.#options
    return preview === null
      ? null
      : (picture) => {
          void writeWhole(preview, picture).catch(() => undefined)
        }
  }

  readonly #partOf = (file: string): string => `${file}.${this.#options.label}.part`

  #titleOf(segment: Segment): string {
    const { film } = this.#index
    const piece = film.programme.pieces[segment.piece]
    return piece === undefined ? '' : slideOf(film, piece.slide).title
  }
}
