import { createHash } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { sum } from 'd3'
import { contentOfSegment, costOfSegment, renderPlan, runsOf } from '@core/plan'
import type { RenderPlan, Run, Segment } from '@core/plan'
import { indexFilm, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { toFilm } from '@contracts'
import { checkFilm, probe } from '@render/probe'
import { contentOfVoice, makeVoice, measureFile } from '@render/sound'
import type { Loudness } from '@render/sound'
import { FilmPainter, joinFilm, PictureSource, makeSegment, settingOf } from '@render/video'
import type { CameraFile, JoinPart } from '@render/video'
import { database } from '@server/database'
import { filmView } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { assetPath, deliveryFolder, deliveryPath, lookPath, recordingPath, segmentFolder, sizeOf, voicePath, writeWhole } from '@server/store'
import { Progress } from './progress'

/** A segment could not be made; says where, for the person. */
class SegmentFailed extends Error {
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
interface MadePart extends JoinPart {
  readonly encoded: number
}

/**
 * Makes the segments that are not there yet, one on each core: an encoder with one thread wastes less than one with
 * two, and while one segment begins or is checked the other goes on. What is finished stays, whatever happens to the rest.
 */
async function makeSegments(index: FilmIndex, plan: RenderPlan, delivery: string, progress: Progress): Promise<readonly MadePart[]> {
  const setting = settingOf(plan.size, plan.rate, plan.quality)
  const pictures = new PictureSource(assetPath)
  const cameraOf = cameras()
  const todo = plan.segments.entries()
  const parts: MadePart[] = []

  const make = async (segment: Segment, runs: readonly Run[], file: string, painter: FilmPainter): Promise<void> => {
    const part = `${file}.${delivery}.part`
    try {
      await makeSegment({
        segment, runs, size: plan.size, rate: plan.rate, quality: plan.quality, threads: 1,
        camera: segment.inset === null ? null : await cameraOf(segment.inset.stretch),
        out: part, signal: progress.signal,
        onLook: (picture) => { void writeWhole(lookPath(delivery), picture).catch(() => undefined) },
        onFrames: (frames) => { progress.within(segment, frames) },
      }, painter)
      await rename(part, file)
    } catch (error) {
      progress.throwIfCancelled()
      throw new SegmentFailed(titleOf(index, segment), error)
    } finally {
      await Promise.all([rm(part, { force: true }), rm(`${part}.mask.png`, { force: true })])
    }
  }

  // Parts of the film that look the same have one key; whoever comes second waits for the first.
  const making = new Map<string, Promise<void>>()
  const makeOne = async (segment: Segment, painter: FilmPainter): Promise<MadePart> => {
    const runs = runsOf(index, segment, plan.rate)
    const key = createHash('sha256').update(contentOfSegment(segment, runs, setting)).digest('hex')
    const file = join(segmentFolder(), `${key}.h264`)
    const found = making.has(key) || await sizeOf(file) !== null
    if (!found) making.set(key, make(segment, runs, file, painter))
    await making.get(key)
    return { file, still: segment.kind === 'still', frames: segment.frames, encoded: found ? 0 : segment.frames }
  }

  const lane = async (): Promise<void> => {
    const painter = new FilmPainter(plan.size, pictures)
    for (const [number, segment] of todo) {
      parts[number] = await makeOne(segment, painter)
      await progress.finished(segment)
    }
  }

  const lanes = Array.from({ length: settings().encoderThreads }, lane)
  try {
    await Promise.all(lanes)
  } catch (error) {
    // The other lanes end at their next step; pictures may go only then.
    progress.halt()
    await Promise.allSettled(lanes)
    throw error
  } finally {
    await pictures.close()
  }
  return parts
}

/** Makes the film's sound, or finds it made. */
async function makeSound(plan: RenderPlan, delivery: string, progress: Progress): Promise<{ readonly file: string, readonly loudness: Loudness }> {
  const key = createHash('sha256').update(contentOfVoice(plan.voice, plan.frames, plan.rate)).digest('hex')
  const file = join(segmentFolder(), `${key}.m4a`)
  if (await sizeOf(file) !== null) return { file, loudness: await measureFile(file) }
  const part = `${file}.${delivery}.part`
  try {
    const loudness = await makeVoice({ parts: plan.voice, voiceOf: voicePath, frames: plan.frames, rate: plan.rate, out: part, signal: progress.signal })
    await rename(part, file)
    return { file, loudness }
  } finally {
    await rm(part, { force: true })
  }
}

function titleOf(index: FilmIndex, segment: Segment): string {
  const piece = index.film.programme.pieces[segment.piece]
  return piece === undefined ? '' : slideOf(index.film, piece.slide).title
}

/** Notes when parts of a job were done, in ms since it began. */
function stopwatch(): { readonly notes: Readonly<Record<string, number>>, readonly note: (name: string) => void } {
  const began = performance.now()
  const notes: Record<string, number> = {}
  return { notes, note: (name) => { notes[name] = Math.round(performance.now() - began) } }
}

/** Makes a delivery: segments and voice, joined and checked. Asked again after a stop, it goes on where it was. */
export async function deliverTask(id: string): Promise<void> {
  const db = database()
  const row = await db.selectFrom('delivery').innerJoin('talk', 'talk.id', 'delivery.talk')
    .selectAll('delivery').select('talk.name').where('delivery.id', '=', id).executeTakeFirst()
  if (row === undefined || !['queued', 'making', 'checking'].includes(row.state)) return
  const began = Date.now()
  const index = indexFilm(toFilm(await filmView(db, row.talk, row.programme_revision)))
  const plan = renderPlan(index, row.recipe)
  const folder = deliveryFolder(id)
  await Promise.all([mkdir(folder, { recursive: true }), mkdir(segmentFolder(), { recursive: true })])
  const progress = new Progress(db, { id, talk: row.talk }, plan, plan.segments.map((segment) => costOfSegment(segment, plan)))
  try {
    await progress.enter('making')
    const clock = stopwatch()
    const [sound, parts] = await Promise.all([
      makeSound(plan, id, progress).finally(() => { clock.note('sound') }),
      makeSegments(index, plan, id, progress).finally(() => { clock.note('segments') }),
    ])
    const film = `${deliveryPath(id)}.part`
    await progress.enter('checking')
    await joinFilm({ parts, sound: sound.file, chapters: plan.chapters, title: row.name, rate: plan.rate, out: film, signal: progress.signal })
    clock.note('join')
    const limit = row.recipe.limit.kind === 'hold' ? row.recipe.limit.limit : null
    const checked = await checkFilm(film, { plan, loudness: sound.loudness, limit })
    clock.note('check')
    log.info({ delivery: id, frames: plan.frames, ms: clock.notes }, 'delivery made')
    if (checked.kind === 'bad') {
      await rm(film, { force: true })
      await progress.fail(checked.sentence)
      return
    }
    await rename(film, deliveryPath(id))
    await progress.done({ ...checked.facts, madeIn: Date.now() - began, encoded: sum(parts, (part) => part.encoded) })
  } catch (error) {
    if (progress.cancelled) {
      log.info({ delivery: id }, 'delivery cancelled')
      return
    }
    throw error
  } finally {
    progress.close()
    await Promise.all(['film.mp4.part.chapters', 'film.mp4.part'].map((name) => rm(join(folder, name), { force: true })))
  }
}

/** Says so when a delivery was tried as often as it may be. */
export async function deliverGivenUp(id: string, error: unknown): Promise<void> {
  const where = error instanceof SegmentFailed ? ` while the part on “${error.slide}” was being made` : ''
  await new Progress(database(), { id, talk: '' }, null, []).fail(`Making this file failed${where}. What was finished is kept; try again, and tell whoever runs this server if it fails again.`)
}

