import type { RenderPlan } from '@core/plan'
import type { FilmIndex, Scene } from '@core/scene'
import { FilmPainter, PictureSource } from '@render/video'
import type { Coding, JoinPart } from '@render/video'
import { apartBounds } from '@server/settings'
import { assetHere, foundInCache, safeFolder, segmentFolder } from '@server/store'
import { PartMaker } from './make-parts'
import type { Wanted } from './make-parts'
import { pictureJobs } from './picture-jobs'
import type { Numbered } from './picture-jobs'
import type { EncodeOptions, PictureWatch } from './encode-options'

/** A part of the film that is there, and how many of its frames were encoded for it now. */
export interface MadePart extends JoinPart {
  readonly encoded: number
  /** ms that making it took here; 0 when it was there or another worker made it. */
  readonly took: number
}

/** How often it is looked whether another worker has made a part, in ms. */
const LOOK_AGAIN = 200

/** What has been made of a film so far, and who waits for what. */
class PartsOfFilm {
  readonly parts: MadePart[] = []
  readonly #maker: PartMaker
  readonly #watch: PictureWatch
  readonly #pagesOf: (scene: Scene) => Promise<unknown>
  /** What the jobs begin with that come next, by number: it was reckoned when their pages were asked for. */
  readonly #ahead = new Map<number, Wanted>()
  /** Parts of the film that look the same have one key; whoever comes second waits for the first. */
  readonly #making = new Map<string, Promise<number | null>>()

  /** @param pagesOf has the pages drawn that a scene shows, and keeps them for whoever paints it */
  constructor(maker: PartMaker, watch: PictureWatch, pagesOf: (scene: Scene) => Promise<unknown>) {
    this.#maker = maker
    this.#watch = watch
    this.#pagesOf = pagesOf
  }

  /**
   * Has the page drawn that a job begins with, unless it is there: while the job before it is encoded, so that its encoder does not
   * wait.
   */
  async getReady([first]: readonly Numbered[]): Promise<void> {
    if (first === undefined) return
    const wanted = this.#wanted(first)
    this.#ahead.set(first.number, wanted)
    const {
      runs: [run],
      file,
    } = wanted
    if (run !== undefined && !(await foundInCache(file))) await this.#pagesOf(run.scene)
  }

  #wanted(one: Numbered): Wanted {
    const known = this.#ahead.get(one.number)
    this.#ahead.delete(one.number)
    return known ?? this.#maker.wanted(one)
  }

  /** @returns those that another worker is making */
  async make(job: readonly Numbered[], painter: FilmPainter): Promise<readonly Numbered[]> {
    const wanted = job.map((one) => this.#wanted(one))
    // They are noted before anything is waited for, or two lanes would both begin.
    const firsts = wanted.filter(({ key }, n) => !this.#making.has(key) && wanted.findIndex((other) => other.key === key) === n)
    const began = this.#maker.makeUnlessThere(firsts, painter)
    for (const { key } of firsts) {
      const made = began.then((took) => took.get(key) ?? null)
      // The first of them to fail ends this lane; of the others nobody need hear.
      made.catch(() => undefined)
      this.#making.set(key, made)
    }
    const left: Numbered[] = []
    for (const one of wanted) {
      const { number, segment, key, file } = one
      const took = (await this.#making.get(key)) ?? null
      if (took === null) {
        this.#making.delete(key)
        left.push({ number, segment })
        continue
      }
      const mine = firsts.includes(one)
      this.parts[number] = {
        file,
        still: segment.kind === 'still',
        frames: segment.frames,
        encoded: took > 0 && mine ? segment.frames : 0,
        took: mine ? took : 0,
      }
      await this.#watch.finished(segment)
    }
    return left
  }
}

/**
 * Makes the segments that are not there yet, one on each core: an encoder with one thread wastes less than one with
 * two, and while one segment begins or is checked the other goes on. What is finished stays, whatever happens to the rest; what
 * another worker is making is left to it.
 */
export async function makePictures(
  index: FilmIndex,
  plan: RenderPlan,
  coding: Coding,
  watch: PictureWatch,
  options: EncodeOptions,
): Promise<readonly MadePart[]> {
  const pictures = new PictureSource(assetHere, apartBounds())
  await safeFolder(segmentFolder())
  const film = new PartsOfFilm(new PartMaker(index, plan, coding, watch, options), watch, (scene) => pictures.shelfFor(scene, plan.size))
  /** What is to be made, how many of it were begun, and what another worker was making then. */
  const jobs = pictureJobs(plan, coding, options.lanes, options.first)
  let begun = 0
  const elsewhere: Numbered[] = []

  const lane = async (): Promise<void> => {
    const painter = new FilmPainter(plan.size, pictures)
    for (let job = jobs[begun]; job !== undefined; job = jobs[begun]) {
      begun += 1
      // Should its page not be drawn, that is heard of when the job is made.
      void film.getReady(jobs[begun] ?? []).catch(() => undefined)
      elsewhere.push(...(await film.make(job, painter)))
    }
    // What another worker makes is waited for; should it have died, its parts are free again.
    for (let next = elsewhere.shift(); next !== undefined; next = elsewhere.shift()) {
      while ((await film.make([next], painter)).length > 0) {
        await new Promise((resolve) => {
          setTimeout(resolve, LOOK_AGAIN)
        })
        watch.throwIfCancelled()
      }
    }
  }

  const running = Array.from({ length: options.lanes }, lane)
  try {
    await Promise.all(running)
  } catch (error) {
    // The other lanes end at their next step; pictures may go only then.
    watch.halt()
    await Promise.allSettled(running)
    throw error
  } finally {
    pictures.close()
  }
  return film.parts
}
