import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { SMALL_VOICE, mostOfSmallForm } from '@core/bundle'
import { renderPlan } from '@core/plan'
import { USUAL_RECIPE } from '@core/model'
import { filmOnItsWay } from '@contracts'
import { packSpeech } from '@render/sound'
import { bundleSource, firstName } from '@server/domain'
import type { BundleSource } from '@server/domain'
import { makeSound } from '../tasks/make-sound'
import { pageOfBundle, slidesOfBundle } from './bundle-parts'
import type { ExportFacts, ExportWork } from './export-work'
import { smallPictures } from './small-pictures'
import { zipInto } from './zip-folder'
import type { ZipEntry } from './zip-folder'

/** How much of the work is done when the voice is there. */
const VOICE = 0.5
const PAGE = 0.95

/** The voice, packed as speech; null where nothing is heard. */
async function voiceOf(work: ExportWork, { screening }: BundleSource): Promise<string | null> {
  if (!screening.voice) return null
  const { folder, label, watch } = work
  const plan = renderPlan(screening.whole, USUAL_RECIPE)
  const sound = await makeSound(plan, label, watch.signal, (share) => {
    watch.reached(share * VOICE)
  })
  const out = join(folder, 'voice.webm')
  await packSpeech(sound.file, SMALL_VOICE, out, watch.signal)
  return out
}

const bytesOf = (entries: readonly ZipEntry[]): number =>
  entries.reduce((sum, entry) => sum + ('bytes' in entry ? Buffer.byteLength(entry.bytes) : 0), 0)

/** Makes a folder that plays a talk in few bytes: pictures of its slides, ink as it was drawn, and the voice. */
export async function makeSmallBundle(work: ExportWork): Promise<ExportFacts> {
  const { db, of, out, watch } = work
  const source = await bundleSource(db, of.talk)
  const { screening } = source
  const voice = await voiceOf(work, source)
  watch.reached(VOICE)
  const rows = await slidesOfBundle(source)
  const media = voice === null ? null : ({ kind: 'voice', file: 'voice.webm' } as const)
  const page = (drawn: object) => pageOfBundle(source, { slides: rows.slides, files: [], media, drawn })
  const others =
    bytesOf(rows.entries) + bytesOf([await page(filmOnItsWay(screening.film))]) + (voice === null ? 0 : (await stat(voice)).size)
  const most = mostOfSmallForm(screening.length)
  const pictures = await smallPictures(screening.film, most - others, (share) => {
    watch.reached(VOICE + (PAGE - VOICE) * share)
  })
  const entries = [
    await page(pictures.drawn),
    ...(voice === null ? [] : [{ name: 'voice.webm', path: voice }]),
    ...rows.entries,
    ...pictures.entries,
  ]
  await zipInto(out, firstName(of.name), entries, watch.signal)
  const moving = [...screening.film.slides.values()].some(({ clips }) => clips !== undefined && clips.length > 0)
  return { length: screening.length, sentence: moving ? 'What moves on slides stands still in it; it is heard all the same.' : null }
}
