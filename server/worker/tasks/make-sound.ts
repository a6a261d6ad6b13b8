import { createHash } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { RenderPlan } from '@core/plan'
import { SOUND_CODECS, contentOfVoice, makeVoice, measureFile } from '@render/sound'
import type { Loudness, VoiceWanted } from '@render/sound'
import { foundInCache, segmentFolder, voicePath } from '@server/store'

export interface MadeSound {
  readonly file: string
  readonly loudness: Loudness
}

/** Makes the film's sound, or finds it made. @param label tells apart what several make at a time */
export async function makeSound(plan: RenderPlan, label: string, signal: AbortSignal): Promise<MadeSound> {
  const wanted: VoiceWanted = { parts: plan.voice, frames: plan.frames, rate: plan.rate, format: plan.format, loudness: plan.loudness }
  const key = createHash('sha256').update(contentOfVoice(wanted)).digest('hex')
  const file = join(segmentFolder(), `${key}.${SOUND_CODECS[plan.format].ending}`)
  if (await foundInCache(file)) return { file, loudness: await measureFile(file) }
  await mkdir(segmentFolder(), { recursive: true })
  const part = `${file}.${label}.part`
  try {
    const loudness = await makeVoice({ wanted, voiceOf: voicePath, out: part, signal })
    await rename(part, file)
    return { file, loudness }
  } finally {
    await rm(part, { force: true })
  }
}
