import { rm, stat, writeFile } from 'node:fs/promises'
import { sum } from 'd3'
import { costOfSegment, costOfVoice, nextTry, renderPlan, timeAfterPictures } from '@core/plan'
import type { RenderPlan, SizeTry } from '@core/plan'
import { Refusal, isVideo } from '@core/model'
import type { Format, Recipe, VideoFormat } from '@core/model'
import type { FilmIndex } from '@core/scene'
import { checkFilm } from '@render/probe'
import { tagSound } from '@render/sound'
import { CRF_BOUNDS, codingOf, joinFilm, metadata } from '@render/video'
import type { Coding, FileNotes, JoinOrder } from '@render/video'
import { database } from '@server/database'
import { deliveryToMake, filmOfRecipe, setMakers, turnOf } from '@server/domain'
import type { DeliveryTurn } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import {
  assetHere,
  deliveryFolder,
  deliveryPath,
  digestOfFile,
  previewPath,
  safeFolder,
  stage,
  storeIsFull,
  trimSegmentCache,
} from '@server/store'
import type { Claim } from '../claims'
import { WORKER } from '../identity'
import { captionsFor } from './captions-for'
import { askForHelp, needNoHelp } from './help-deliver'
import { tooBig } from './least-size'
import type { LeastSize } from './least-size'
import { SegmentFailed } from './make-parts'
import { makePictures } from './make-pictures'
import { makeSound } from './make-sound'
import type { MadeSound } from './make-sound'
import type { PictureWatch } from './encode-options'
import { Progress } from './progress'

/** Notes when parts of a job were done, in ms since it began. */
function stopwatch(): { readonly notes: Readonly<Record<string, number>>; readonly note: (name: string) => void } {
  const began = performance.now()
  const notes: Record<string, number> = {}
  return {
    notes,
    note: (name) => {
      notes[name] = Math.round(performance.now() - began)
    },
  }
}

/** What making one file works with. */
interface Making extends DeliveryTurn {
  readonly index: FilmIndex
  readonly recipe: Recipe
  readonly plan: RenderPlan
  readonly notes: FileNotes
  readonly captions: JoinOrder['captions']
  /** Tells what is unfinished of it apart from what anybody else makes. */
  readonly label: string
  /** Where the file is put together. */
  readonly out: string
}

/** Makes the pictures one way and puts the file together. @returns how many frames had to be encoded */
async function makeOnce(making: Making, coding: Coding, sound: Promise<MadeSound>, progress: Progress): Promise<number> {
  const { index, plan, notes, captions, out } = making
  const [made, parts] = await Promise.all([
    sound,
    makePictures(index, plan, coding, progress, {
      label: making.label,
      preview: previewPath(making.id),
      lanes: settings().encoderThreads,
      first: 'long',
    }),
  ])
  await progress.enter('checking')
  await joinFilm({ format: coding.format, parts, sound: made.file, notes, captions, fps: plan.fps, out, signal: progress.signal })
  return sum(parts, (part) => part.encoded)
}

/** Tries qualities until the file stays under its size and makes use of it. @throws Refusal `over-limit` when it would look bad */
async function makeToSize(making: Making, first: Coding, most: number, sound: Promise<MadeSound>, progress: Progress): Promise<number> {
  const least = await tooBig(making.index, making.recipe, first.format, most, making.label, unheard(progress))
  if (least !== null) throw tooMuch(most, least)
  const tries: SizeTry[] = []
  let encoded = 0
  for (let crf = first.crf; ;) {
    encoded += await makeOnce(making, { ...first, crf }, sound, progress)
    tries.push({ crf, bytes: (await stat(making.out)).size })
    const next = nextTry(tries, { most, ...CRF_BOUNDS[first.format] })
    log.info({ delivery: making.id, tries, next }, 'looking for a quality that has the size')
    if (next.kind === 'impossible') {
      throw tooMuch(most, { bytes: next.least, fits: null })
    }
    if (next.kind === 'take' && next.crf === crf) return encoded
    crf = next.crf
    await progress.again()
  }
}

/** Says what would do instead. */
function tooMuch(most: number, { bytes, fits }: LeastSize): Refusal {
  const instead =
    fits === null
      ? 'Allow more, or take fewer lines or a shorter part.'
      : `${String(fits.lines)} lines would do, with about ${megabytes(fits.bytes)}; or allow more.`
  return new Refusal(
    'over-limit',
    `It would look bad: even as coarse as can be looked at, this file takes ${megabytes(bytes)}, and ${megabytes(most)} are ` +
      `allowed. ${instead}`,
  )
}

/** Samples are no progress of the file. */
const unheard = (progress: Progress): PictureWatch => ({
  signal: progress.signal,
  within: () => undefined,
  finished: () => {
    progress.throwIfCancelled()
    return Promise.resolve()
  },
  throwIfCancelled: () => {
    progress.throwIfCancelled()
  },
  halt: () => {
    progress.halt()
  },
})

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`

/** Puts a file of sound alone together. */
async function makeSoundFile(
  { notes, out }: Making,
  format: Exclude<Format, VideoFormat>,
  sound: Promise<MadeSound>,
  progress: Progress,
): Promise<void> {
  const { file } = await sound
  await progress.enter('checking')
  const said = `${out}.chapters`
  await writeFile(said, metadata(notes))
  await tagSound({ format, sound: file, notes: said, cover: notes.cover, out, signal: progress.signal })
}

/** Makes a delivery: segments and voice, joined and checked. Asked again after a stop, it goes on where it was. */
export async function deliverTask(id: string, claim: Claim): Promise<void> {
  const db = database()
  const row = await deliveryToMake(db, id)
  if (row === null) return
  const began = Date.now()
  const { recipe, talk } = row
  const index = await filmOfRecipe(db, talk, recipe, row.programme_revision ?? undefined)
  const plan = renderPlan(index, recipe)
  const folder = deliveryFolder(id)
  await safeFolder(folder)
  const out = `${deliveryPath(id)}.${String(claim.number)}.part`
  const making: Making = {
    id,
    talk,
    turn: row.turn,
    index,
    recipe,
    plan,
    label: `${id}.${String(claim.number)}`,
    out,
    notes: {
      title: row.name,
      artist: recipe.fields['speaker'] ?? recipe.fields['surname'] ?? '',
      chapters: plan.chapters,
      cover: await coverOf(index),
    },
    captions: await captionsFor(db, { talk, index, recipe, length: plan.length, out }),
  }
  const progress = new Progress(db, claim, making, plan, {
    costs: plan.segments.map((segment) => costOfSegment(segment, plan)),
    voice: costOfVoice(plan),
    time: row.estimate.time,
    after: timeAfterPictures(plan, row.estimate.time),
  })
  try {
    await progress.enter('making')
    const clock = stopwatch()
    const sound = makeSound(plan, making.label, progress.signal, progress.sounded).finally(() => {
      clock.note('sound')
    })
    // It is waited for further down; until then its failure is nobody's.
    sound.catch(() => undefined)
    const encoded = await makeFile(making, sound, progress)
    clock.note('made')
    const limit = recipe.limit.kind === 'hold' ? recipe.limit.limit : null
    const checked = await checkFilm(making.out, { plan, loudness: (await sound).loudness, captions: making.captions !== null, limit })
    clock.note('check')
    log.info({ delivery: id, frames: plan.frames, ms: clock.notes }, 'delivery made')
    if (checked.kind === 'bad') {
      await progress.fail(checked.sentence)
      return
    }
    const digest = await digestOfFile(making.out)
    const staged = await stage(making.out)
    await progress.done({ ...checked.facts, madeIn: Date.now() - began, encoded }, digest, () => staged.putUnder(deliveryPath(id)))
    await trimSegmentCache(settings().segmentCache, Date.now())
  } catch (error) {
    if (progress.cancelled) log.info({ delivery: id }, 'delivery cancelled')
    else if (error instanceof Refusal) await progress.fail(error.message)
    else if (await storeIsFull()) {
      log.error({ delivery: id, error: String(error) }, 'no room for a delivery')
      await progress.fail(
        "The server's disk is full, so this file could not be made. What was finished is kept: free some space there and try again.",
      )
    } else throw error
  } finally {
    progress.close()
    await Promise.all([making.out, `${making.out}.chapters`, `${making.out}.vtt`].map((path) => rm(path, { force: true })))
  }
}

/** @returns how many frames had to be encoded */
async function makeFile(making: Making, sound: Promise<MadeSound>, progress: Progress): Promise<number> {
  const { format, quality, bits } = making.plan
  if (!isVideo(format)) {
    await makeSoundFile(making, format, sound, progress)
    return 0
  }
  const coding = codingOf(format, quality, bits)
  // What is tried for a size is known here alone.
  if (bits.kind === 'size') return await makeToSize(making, coding, bits.most, sound, progress)
  await setMakers(database(), making.id, [WORKER])
  await askForHelp(making.id, [WORKER])
  return await makeOnce(making, coding, sound, progress).finally(() => needNoHelp(making.id))
}

/** The first picture that is seen, if it is one that is kept as JPEG. */
async function coverOf({ film }: FilmIndex): Promise<string | null> {
  const [first] = film.programme.pieces
  const slide = first === undefined ? undefined : film.slides.get(first.slide)
  const picture = slide?.steps[0]?.picture
  return picture === undefined || !('screen' in picture) ? null : await assetHere(picture.screen)
}

/** Says so when a delivery was tried as often as it may be. */
export async function deliverGivenUp(id: string, error: unknown, claim: Claim): Promise<void> {
  const where = error instanceof SegmentFailed ? ` while the part on “${error.slide}” was being made` : ''
  const turn = await turnOf(database(), id)
  if (turn !== null)
    await new Progress(database(), claim, turn, null, { costs: [], voice: 0, time: 0, after: 0 }).fail(
      `Making this file failed${where}. What was finished is kept; try again, and tell whoever runs this server if it fails again.`,
    )
}
