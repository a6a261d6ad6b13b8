import { randomUUID } from 'node:crypto'
import { mkdir } from 'node:fs/promises'
import { basename, join } from 'node:path'
import type { Selectable } from 'kysely'
import { Refusal, asId, isWebAddress, newSlide } from '@core/model'
import { freeOnAll, insetPlaces, placeOverDeck } from '@core/layout'
import type { AssetId, ComposedPicture, Size, Slide, SlideId, Step } from '@core/model'
import { readDeckApart } from '@render/deck'
import type { OfficeReport } from '@core/office'
import type { DeckMessage, ReadRecording, ReadStep, StepSource } from '@render/deck'
import { database } from '@server/database'
import type { Database, ImportTable } from '@server/database'
import {
  JPEG,
  WEBP,
  importDone,
  importFailed,
  importOf,
  keepForTalk,
  noteMatch,
  notePages,
  proposeInsets,
  putBeside,
  putClips,
  putClipsBeside,
  putImported,
  slidesToMatch,
  startReading,
  takeBackImport,
  takeOfDeck,
} from '@server/domain'
import { log } from '@server/log'
import { apartBounds, officeConverter, settings } from '@server/settings'
import type { RecordedSlide } from '@server/domain'
import { allHere, assetPath, removeTree, stage, uploadFolder } from '@server/store'
import type { Claim } from '../claims'
import { comparedSlides } from './compared-slides'
import { ClipMaker, FoundMedia } from './deck-clips'

type Import = Selectable<ImportTable>

/** How long slides that were read wait for others, so that a long deck is not saved page by page, in ms. */
const GATHER = 400

/**
 * Puts what was read into the talk's deck, in order and a few slides at a time; the first is there at once. What a worker that was
 * killed had put in stays, and whoever reads the deck again goes on after it: somebody may be using it.
 */
class DeckWriter {
  readonly #db: Database
  readonly #import: Import
  readonly #claim: Claim
  readonly #made: SlideId[]
  readonly #revisions: number[]
  #waiting: Slide[] = []
  #pages: number
  #written = 0

  constructor(db: Database, row: Import, claim: Claim) {
    this.#db = db
    this.#claim = claim
    this.#import = row
    this.#made = (row.slides ?? []).map((slide) => asId<'slide'>(slide))
    this.#revisions = [...(row.revisions ?? [])]
    this.#pages = row.pages_done
  }

  get made(): readonly SlideId[] {
    return this.#made
  }

  /** @returns its id */
  async put(slide: Slide): Promise<SlideId> {
    this.#waiting.push(slide)
    this.#pages += slide.steps.length
    if (Date.now() - this.#written >= GATHER) await this.flush()
    return slide.id
  }

  async flush(): Promise<void> {
    if (this.#waiting.length === 0) return
    const slides = this.#waiting
    this.#waiting = []
    const came = await this.#db.transaction().execute(async (q) => {
      await this.#claim.stillHeld(q)
      if (this.#import.replaces !== null) {
        await putBeside(q, { ...this.#import, slides: this.#made }, slides, this.#pages)
        return 0
      }
      return await putImported(q, this.#import, slides, { made: this.#made, revisions: this.#revisions, pages: this.#pages })
    })
    this.#revisions.push(...slides.map(() => came))
    this.#made.push(...slides.map((slide) => slide.id))
    this.#written = Date.now()
  }
}

/** A slide that was told, in the order in which they are. */
interface ToldSlide {
  readonly slide: SlideId
  /** Which places for its inset are free on it, as `freePlaces` says; null where that is not known. */
  readonly free: string | null
}

/** Where the inset is proposed on slides that came in together. */
function insetsOver(slides: readonly ToldSlide[], shape: Size): ReadonlyMap<SlideId, NonNullable<Slide['proposedInset']>> {
  const places = insetPlaces(shape)
  const chosen = placeOverDeck(
    slides.map(({ free }) => free),
    places,
  )
  return new Map(
    slides.flatMap(({ slide }, n) => {
      const place = places[chosen[n] ?? -1]
      return place === undefined ? [] : [[slide, { rect: place.rect, shape }] as const]
    }),
  )
}

/** What is said of slides that had been read and were worked on meanwhile. */
const staying = (count: number): string =>
  count === 1
    ? 'One slide of it that you have worked on since stays in the talk.'
    : `${String(count)} slides of it that you have worked on since stay in the talk.`

/** Reads files into a talk's deck. */
export async function readDeckTask(id: string, claim: Claim): Promise<void> {
  const db = database()
  const row = await importOf(db, id)
  if (row === null || row.state === 'done' || row.state === 'failed') return
  const { talk } = row
  const out = join(uploadFolder(), `deck-${id}-${String(claim.number)}`)
  const writer = new DeckWriter(db, row, claim)
  const earlier = [...writer.made].values()
  const builds: SlideId[][] = []
  const told: ToldSlide[] = []
  const reports: OfficeReport[] = []
  const recorded: RecordedSlide[] = []
  let shape: Size = { width: 16, height: 9 }
  let last: SlideId | null = null

  /** A file that the reader says it has made: whatever it calls it, it is in the folder that it was given. */
  const made = (name: string): string => join(out, basename(name))

  const media = new FoundMedia((source) => (source.kind === 'file' ? assetPath(row.files[source.file]?.digest ?? '') : made(source.name)))

  /** What came out of an archive is kept once, however many pages it has. */
  const unpacked = new Map<string, AssetId>()
  const sourceOf = async (source: StepSource): Promise<AssetId> => {
    if (source.kind === 'file') return asId(row.files[source.file]?.digest ?? '')
    const kept = unpacked.get(source.name) ?? (await keepForTalk(db, talk, made(source.name), 'application/octet-stream'))
    unpacked.set(source.name, kept)
    return kept
  }

  const toStep = async (step: ReadStep): Promise<Step> => {
    const screen = await keepForTalk(db, talk, made(step.screen), JPEG)
    const thumb = await keepForTalk(db, talk, made(step.thumb), JPEG)
    const source = await sourceOf(step.source)
    const picture =
      step.kind === 'page'
        ? ({ kind: step.kind, source, page: step.page, size: step.size, screen, thumb } as const)
        : ({ kind: step.kind, source, size: step.size, ground: step.ground, screen, thumb } as const)
    // Who reads decks may have been made to say anything.
    const links = (step.links ?? []).filter(({ address }) => isWebAddress(address))
    const { reveal, motions } = step
    return {
      picture,
      content: step.content,
      text: step.text,
      ...(links.length > 0 ? { links } : {}),
      ...(reveal === undefined ? {} : { reveal }),
      ...(motions === undefined ? {} : { motions }),
    }
  }

  const toSteps = async (read: readonly ReadStep[]): Promise<readonly Step[]> => {
    const steps: Step[] = []
    for (const step of read) steps.push(await toStep(step))
    return steps
  }

  const fresh = (fields: Pick<Slide, 'title' | 'steps'> & Partial<Slide>): Slide => newSlide(asId(randomUUID()), fields)

  const toRecorded = async (recording: ReadRecording): Promise<readonly RecordedSlide[]> => {
    const slide = told[recording.slide]?.slide
    if (slide === undefined) return []
    return [{ slide, recording, voice: recording.media === null ? null : await stage(made(recording.media)) }]
  }

  const hear = async (message: DeckMessage): Promise<void> => {
    switch (message.kind) {
      case 'plan':
        shape = message.shape
        await notePages(db, row, message.pages, message.shape)
        return
      case 'slide': {
        const slide =
          earlier.next().value ?? (await writer.put(fresh({ ...message.facts, title: message.title, steps: await toSteps(message.steps) })))
        told.push({ slide, free: freeOnAll(message.steps.map((step) => step.free)) })
        if (message.adds && last !== null) {
          const group = builds.at(-1)
          if (group?.at(-1) === last) group.push(slide)
          else builds.push([last, slide])
        }
        last = slide
        return
      }
      case 'composed': {
        last = null
        const before = earlier.next().value
        if (before !== undefined) {
          told.push({ slide: before, free: null })
          return
        }
        const pictures: ComposedPicture[] = []
        for (const { file, size, alt } of message.pictures)
          pictures.push({ asset: await keepForTalk(db, talk, made(file), WEBP), size, alt })
        // Its steps are laid out when it is put in.
        const slide = await writer.put(
          fresh({
            title: '',
            steps: [],
            composition: { ...message.composition, pictures },
            notes: message.notes,
            viewerNotes: message.viewerNotes,
          }),
        )
        told.push({ slide, free: null })
        return
      }
      case 'film':
        media.film(message)
        return
      case 'office':
        media.office(
          message.clips,
          told.map(({ slide }) => slide),
          reports.length,
        )
        reports.push(message.report)
        for (const one of message.recorded) recorded.push(...(await toRecorded(one)))
        return
      default:
    }
  }

  /** Makes clips of what was told: films without a slide of theirs come as slides. */
  const makeClips = async () => {
    const maker = new ClipMaker(db, talk, out)
    const dropped = row.onto === null ? [] : await maker.dropped(media.films, row.onto)
    for (const film of row.onto === null ? media.films : [])
      if (earlier.next().value === undefined) await writer.put(fresh(await maker.slide(film)))
    await writer.flush()
    return { dropped, ofOffice: await maker.ofOffice(media.clips, reports) }
  }

  /** The talk's slides and those that were brought, with what of each is compared. */
  const comparedWith = async (brought: readonly SlideId[]) => {
    const slides = await slidesToMatch(db, talk, brought)
    return { slides, looks: await comparedSlides(slides.flat(), shape) }
  }

  try {
    await startReading(db, id)
    await mkdir(out, { recursive: true })
    await allHere(row.files.map(({ digest }) => assetPath(digest)))
    await readDeckApart(
      {
        files: row.files.map((file) => ({ path: assetPath(file.digest), name: file.name })),
        out,
        purpose: row.onto === null ? 'slides' : 'clips',
        converter: officeConverter(),
        maxPages: settings().maxPages,
        maxUnpacked: settings().maxUpload * 2,
      },
      { ...apartBounds(), time: settings().importTime },
      hear,
    )
    const { dropped, ofOffice } = await makeClips()
    const compared = row.replaces === null ? null : await comparedWith(writer.made)
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      const clips = [...dropped, ...ofOffice.clips]
      await (compared === null ? putClips(q, talk, clips) : putClipsBeside(q, compared.slides[1], shape, clips))
      await proposeInsets(q, talk, insetsOver(told, shape))
      await (compared === null ? takeOfDeck(q, id, recorded) : noteMatch(q, id, compared.slides, compared.looks))
      await importDone(q, row, compared === null ? builds : [], ofOffice.reports)
    })
  } catch (error) {
    // A fault of ours is tried again, and what is there is read on behind.
    if (!(error instanceof Refusal)) throw error
    const stay = await takeBack(db, id, claim)
    log.info({ import: id, detail: error.detail }, 'deck refused')
    await importFailed(db, id, `${refusedWords(error, row.files)} ${stay === 0 ? 'The talk is as it was.' : staying(stay)}`)
  } finally {
    await removeTree(out)
  }
}

/** Why files were refused, naming the one that is meant where that is not plain. */
function refusedWords(error: Refusal, files: Import['files']): string {
  const file = error.detail['file']
  const plain = typeof file !== 'string' || (files.length === 1 && file === files[0]?.name)
  return plain ? error.message : `“${file}”: ${error.message}`
}

const takeBack = (db: Database, id: string, claim: Claim): Promise<number> =>
  db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    return await takeBackImport(q, id)
  })

/** Says so when reading a deck failed for a reason of ours. */
export async function readDeckGivenUp(id: string, _: unknown, claim: Claim): Promise<void> {
  const stay = await takeBack(database(), id, claim)
  await importFailed(
    database(),
    id,
    'Reading this deck failed on our side. The file is kept; try again, and tell whoever runs this server if it fails again.' +
      (stay === 0 ? '' : ` ${staying(stay)}`),
  )
}
