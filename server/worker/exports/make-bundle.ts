import { join } from 'node:path'
import { USUAL_RECIPE } from '@core/model'
import { renderPlan } from '@core/plan'
import { codingOf, joinFilm } from '@render/video'
import { bundleSource, firstName } from '@server/domain'
import type { BundleSource } from '@server/domain'
import { captionsFor } from '../tasks/captions-for'
import { makePictures } from '../tasks/make-pictures'
import { makeSound } from '../tasks/make-sound'
import { filesOfBundle, pageOfBundle, slidesOfBundle } from './bundle-parts'
import { exportOptions } from './export-work'
import type { ExportFacts, ExportWork } from './export-work'
import { zipInto } from './zip-folder'

/** How much of the work the film is. */
const FILM = { from: 0.02, to: 0.92 }

/** Makes a talk's film. @returns its file */
async function makeFilm({ db, of, folder, label, watch }: ExportWork, { screening, isRecorded, title, presenter }: BundleSource) {
  const { whole } = screening
  const recipe = {
    ...USUAL_RECIPE,
    lines: of.lines,
    name: '',
    limit: { kind: 'none' },
    timing: isRecorded ? 'recorded' : 'planned',
  } as const
  const plan = renderPlan(whole, recipe)
  const out = join(folder, 'film.mp4')
  watch.picturesFrom(plan.frames, FILM.from, FILM.to)
  const sound = makeSound(plan, label, watch.signal)
  // It is waited for below; until then its failure is nobody's.
  sound.catch(() => undefined)
  const parts = await makePictures(whole, plan, codingOf('mp4', recipe.quality, recipe.bits), watch, exportOptions(label))
  await joinFilm({
    format: 'mp4',
    parts,
    sound: (await sound).file,
    notes: { title, artist: presenter, chapters: plan.chapters, cover: null },
    captions: await captionsFor(db, { talk: of.talk, index: whole, recipe, length: plan.length, out }),
    fps: plan.fps,
    out,
    signal: watch.signal,
  })
  return out
}

/** Makes a folder that plays a talk without internet: its film, and a page that goes along with it. */
export async function makeBundle(work: ExportWork): Promise<ExportFacts> {
  const { db, of, out, watch } = work
  const source = await bundleSource(db, of.talk)
  const film = await makeFilm(work, source)
  watch.reached(FILM.to)
  const [pictures, beside] = [await slidesOfBundle(source), await filesOfBundle(work, source)]
  const media = { kind: 'film', file: 'film.mp4' } as const
  const page = await pageOfBundle(source, { slides: pictures.slides, files: beside.files, media, drawn: null })
  await zipInto(out, firstName(of.name), [page, { name: media.file, path: film }, ...pictures.entries, ...beside.entries], watch.signal)
  return { length: source.screening.length, sentence: null }
}
