import { createHash } from 'node:crypto'
import { readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import Joi from 'joi'
import type { RenderPlan } from '@core/plan'
import { SOUND_CODECS, contentOfVoice, makeVoice, measureFile } from '@render/sound'
import type { Loudness, VoiceWanted } from '@render/sound'
import { readyVoices, voiceFile } from '@server/media'
import { assetHere, foundInCache, putUnder, safeFolder, segmentFolder, writeWhole } from '@server/store'

/** How much of the work it is to treat voices, where that is wished for. */
const TREATING = 0.6

export interface MadeSound {
  readonly file: string
  readonly loudness: Loudness
}

const LOUDNESS = Joi.object<Loudness>({ integrated: Joi.number().allow(null).required(), truePeak: Joi.number().allow(null).required() })

/** What was measured in a sound when it was made, so that it is not measured again. */
const noteOf = (file: string): string => `${file}.loudness`
const note = (file: string, loudness: Loudness): Promise<void> => writeWhole(noteOf(file), Buffer.from(JSON.stringify(loudness)))

function readNote(text: string): Loudness | null {
  try {
    const { value, error } = LOUDNESS.validate(JSON.parse(text))
    return error === undefined ? value : null
  } catch {
    // It is not the text that was written: there is no note.
    return null
  }
}

/** The loudness of a sound that was found made: as noted then, or measured if the note is gone. */
async function loudnessOf(file: string): Promise<Loudness> {
  const noted = (await foundInCache(noteOf(file))) ? readNote(await readFile(noteOf(file), 'utf8')) : null
  if (noted !== null) return noted
  const loudness = await measureFile(file)
  await note(file, loudness)
  return loudness
}

/**
 * Makes the film's sound, or finds it made.
 * @param label tells apart what several make at a time
 * @param onShare hears how much of the work is done, 0 to 1
 */
export async function makeSound(
  plan: RenderPlan,
  label: string,
  signal: AbortSignal,
  onShare: (share: number) => void = () => undefined,
): Promise<MadeSound> {
  const wanted: VoiceWanted = {
    parts: plan.voice,
    clips: plan.clips,
    frames: plan.frames,
    fps: plan.fps,
    format: plan.format,
    loudness: plan.loudness,
  }
  const key = createHash('sha256').update(contentOfVoice(wanted)).digest('hex')
  const file = join(segmentFolder(), `${key}.${SOUND_CODECS[plan.format].ending}`)
  if (await foundInCache(file)) {
    onShare(1)
    return { file, loudness: await loudnessOf(file) }
  }
  await safeFolder(segmentFolder())
  const treated = plan.voice.some(({ treatment }) => treatment !== undefined) ? TREATING : 0
  await readyVoices(plan.voice, signal, (share) => {
    onShare(share * treated)
  })
  const part = `${file}.${label}.part`
  try {
    const loudness = await makeVoice({
      wanted,
      voiceOf: voiceFile,
      clipOf: assetHere,
      out: part,
      signal,
      onShare: (share) => {
        onShare(treated + (1 - treated) * share)
      },
    })
    await note(file, loudness)
    await putUnder(part, file)
    return { file, loudness }
  } finally {
    await rm(part, { force: true })
  }
}
