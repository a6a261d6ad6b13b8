import { stat } from 'node:fs/promises'
import { probeOf, probeSamples } from '@core/plan'
import type { Probe, RenderPlan } from '@core/plan'
import type { FilmIndex } from '@core/scene'
import type { Coding } from '@render/video'
import { settings } from '@server/settings'
import { makePictures } from './make-pictures'
import type { PictureWatch } from './encode-options'

/**
 * Makes some of a film's pictures, to know what all of them will take.
 * @param label tells apart what several make at a time
 * @throws whatever `watch` has the making stop with
 */
export async function makeSamples(index: FilmIndex, plan: RenderPlan, coding: Coding, watch: PictureWatch, label: string): Promise<Probe> {
  const samples = probeSamples(plan)
  const lanes = settings().encoderThreads
  const parts = await makePictures(index, { ...plan, segments: samples }, coding, watch, {
    label,
    preview: null,
    lanes,
    first: 'long',
  })
  const made = await Promise.all(parts.map(async ({ file, took }) => ({ took, bytes: (await stat(file)).size })))
  return probeOf(plan, samples, made, lanes)
}
