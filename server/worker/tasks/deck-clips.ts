import { Refusal, asId } from '@core/model'
import type { Clip, Rect, SlideId } from '@core/model'
import type { OfficeReport } from '@core/office'
import { bringClip } from '@render/clips'
import type { DeckMessage, ReadClip, StepSource } from '@render/deck'
import { clipDroppedOn, filmSlide, freeBox, keepClip, wholeClip } from '@server/domain'
import type { ClipForSlide, KeptClip } from '@server/domain'
import { settings } from '@server/settings'
import type { Queries } from '@server/database'

/** A film or a sound that came with a deck, or by itself. */
export interface FoundFilm {
  readonly path: string
  readonly name: string
}

/** A clip that an office file has on one of its slides, and which of those that were told that is. */
export interface FoundClip {
  readonly slide: SlideId
  readonly path: string
  /** Which of the reports is about its file. */
  readonly report: number
  readonly clip: ReadClip
}

/** Films, sounds and clips that a reader of decks has told of. */
export class FoundMedia {
  readonly films: FoundFilm[] = []
  readonly clips: FoundClip[] = []
  readonly #pathOf: (source: StepSource) => string

  /** @param pathOf where a file is that the reader was given, or has made */
  constructor(pathOf: (source: StepSource) => string) {
    this.#pathOf = pathOf
  }

  film({ source, name }: Extract<DeckMessage, { kind: 'film' }>): void {
    this.films.push({ path: this.#pathOf(source), name })
  }

  /** @param slides that were told, in order @param report which of the reports is about their file */
  office(clips: readonly ReadClip[], slides: readonly SlideId[], report: number): void {
    for (const clip of clips) {
      const slide = slides[clip.slide]
      if (slide !== undefined) this.clips.push({ slide, path: this.#pathOf({ kind: 'unpacked', name: clip.media }), report, clip })
    }
  }
}

/** Makes clips of what was found, in a folder. */
export class ClipMaker {
  readonly #q: Queries
  readonly #talk: string
  readonly #out: string
  #made = 0

  constructor(q: Queries, talk: string, out: string) {
    this.#q = q
    this.#talk = talk
    this.#out = out
  }

  async #make({ path, name }: FoundFilm, trim: ReadClip['trim'] = { start: 0, end: 0 }): Promise<KeptClip> {
    this.#made += 1
    const made = await bringClip(path, { out: this.#out, name: `made-${String(this.#made)}`, trim, time: settings().clipTime })
    return await keepClip(this.#q, this.#talk, this.#out, name, made)
  }

  /** Makes a film, and names it in what is thrown about it. */
  async film(found: FoundFilm): Promise<KeptClip> {
    try {
      return await this.#make(found)
    } catch (error) {
      throw error instanceof Refusal ? new Refusal(error.code, error.message, { file: found.name }) : error
    }
  }

  /** A film as a slide of its own. @throws Refusal naming the file */
  async slide(found: FoundFilm): Promise<ReturnType<typeof filmSlide>> {
    return filmSlide(await this.film(found))
  }

  /** Films and sounds that are dropped on a slide. @throws Refusal naming the file */
  async dropped(found: readonly FoundFilm[], slide: string): Promise<readonly ClipForSlide[]> {
    const clips: ClipForSlide[] = []
    for (const film of found) {
      const kept = await this.film(film)
      clips.push({ slide: asId(slide), clip: (on, shape) => clipDroppedOn(on, shape, kept) })
    }
    return clips
  }

  /** Clips of office files; of those that cannot be read their reports say so. */
  async ofOffice(
    found: readonly FoundClip[],
    reports: readonly OfficeReport[],
  ): Promise<{ readonly clips: readonly ClipForSlide[]; readonly reports: readonly OfficeReport[] }> {
    const clips: ClipForSlide[] = []
    const unread: { readonly report: number; readonly slide: number }[] = []
    for (const { slide, path, report, clip } of found) {
      try {
        const kept = await this.#make({ path, name: clip.name }, clip.trim)
        clips.push({ slide, clip: (on, shape) => placedClip(kept, clip, () => freeBox(on, shape, kept.media)) })
      } catch (error) {
        if (!(error instanceof Refusal)) throw error
        unread.push({ report, slide: clip.number })
      }
    }
    return {
      clips,
      reports: reports.map((report, n) => ({
        ...report,
        findings: [...report.findings, ...unread.flatMap((one) => (one.report === n ? [{ kind: 'clip' as const, slide: one.slide }] : []))],
      })),
    }
  }
}

/** As the file has it: where a film stands outside of its slide, as much of its place as is on it. */
function placedClip(kept: KeptClip, { box, step, start, loop }: ReadClip, otherwise: () => Rect): Clip {
  const share = (value: number): number => Math.max(0, Math.min(1, value))
  const inside = box === null ? null : { x: share(box.x), y: share(box.y), right: share(box.x + box.w), bottom: share(box.y + box.h) }
  const [w, h] = inside === null ? [0, 0] : [inside.right - inside.x, inside.bottom - inside.y]
  const place = inside === null || w < 0.02 || h < 0.02 ? otherwise() : { x: inside.x, y: inside.y, w, h }
  return wholeClip(kept, { box: place, step, start, loop })
}
