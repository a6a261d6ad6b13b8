import { join } from 'node:path'
import { USUAL_RECIPE } from '@core/model'
import type { Film, Lines, Ms, Size } from '@core/model'
import { renderPlan } from '@core/plan'
import { indexFilm } from '@core/scene'
import { codingOf, joinFilm } from '@render/video'
import { makePictures } from '../tasks/make-pictures'
import { exportOptions } from './export-work'
import type { ExportWork } from './export-work'

/** A film without sound that was made for an export. */
export interface SilentFilm {
  readonly path: string
  readonly length: Ms
  /** Of its picture. */
  readonly frame: Size
}

/**
 * Makes the pictures of a film as a file of its own, without sound.
 * @param name of the file, without its ending
 * @param until share of the whole export that is done afterwards
 */
export async function silentFilm(
  { folder, label, watch }: ExportWork,
  film: Film,
  { lines, name, until }: { readonly lines: Lines; readonly name: string; readonly until: number },
): Promise<SilentFilm> {
  const index = indexFilm(film)
  const plan = renderPlan(index, { ...USUAL_RECIPE, lines })
  const path = join(folder, `${name}.mp4`)
  watch.picturesFrom(plan.frames, watch.share, until)
  const parts = await makePictures(index, plan, codingOf('mp4', USUAL_RECIPE.quality, USUAL_RECIPE.bits), watch, exportOptions(label))
  const notes = { title: name, artist: '', chapters: plan.chapters, cover: null }
  await joinFilm({ format: 'mp4', parts, sound: null, notes, captions: null, fps: plan.fps, out: path, signal: watch.signal })
  return { path, length: index.length, frame: plan.frame }
}
