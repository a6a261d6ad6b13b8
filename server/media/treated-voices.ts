import { createHash } from 'node:crypto'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { dequal } from 'dequal'
import type { VoicePart } from '@core/plan'
import { VoiceMeter } from '@core/voice'
import type { VoiceFacts } from '@core/voice'
import type { VoiceTreatment } from '@core/model'
import { BYTES_A_SAMPLE, SAMPLE_RATE, TREATMENT, packVoice, treatVoice } from '@render/sound'
import { apartBounds } from '@server/settings'
import { here, segmentFolder, sizeOf, voicePath } from '@server/store'
import { CacheMaker, madeInCache } from './made-in-cache'

/** Which voice, and what is done to it. */
type Wanted = Pick<VoicePart, 'stretch' | 'treatment'>

/** A voice is measured in so many parts of so many seconds at most, spread over all of it. */
const PARTS = 24
const SECONDS = 2
/** What treating a voice may take, in ms: so much, and so much of its length. */
const TIME = { beside: 60_000, share: 0.6 } as const

/** Measures a voice as it was recorded. */
export async function voiceFacts(stretch: string): Promise<VoiceFacts> {
  const path = await here(voicePath(stretch))
  const meter = new VoiceMeter()
  const size = (await sizeOf(path)) ?? 0
  const part = SECONDS * SAMPLE_RATE * BYTES_A_SAMPLE
  const count = Math.max(1, Math.min(PARTS, Math.floor(size / part)))
  const file = await open(path)
  try {
    for (let n = 0; n < count; n += 1) {
      const samples = new Int16Array(SECONDS * SAMPLE_RATE)
      const at = count === 1 ? 0 : Math.floor(((size - part) * n) / (count - 1) / BYTES_A_SAMPLE) * BYTES_A_SAMPLE
      const { bytesRead } = await file.read(Buffer.from(samples.buffer), 0, part, at)
      meter.take(samples.subarray(0, Math.floor(bytesRead / BYTES_A_SAMPLE)))
    }
  } finally {
    await file.close()
  }
  return meter.facts
}

/** Where a treated voice lies once it was made. */
function treatedPath(stretch: string, treatment: VoiceTreatment): string {
  const { noise, hum, rumble, sibilance, level } = treatment
  const key = createHash('sha256')
    .update(JSON.stringify(['treated', TREATMENT, stretch, noise, hum, rumble, sibilance, level]))
    .digest('hex')
  return join(segmentFolder(), `${key}.pcm`)
}

/** The voice of a part, on this machine: as it was recorded, or as it was treated. */
export const voiceFile = ({ stretch, treatment }: Wanted): Promise<string> =>
  here(treatment === undefined ? voicePath(stretch) : treatedPath(stretch, treatment))

const maker = new CacheMaker(1)

/** A treated voice; it is made if it is not there. @throws ProcessFailed when it cannot be made */
export const treatedVoice = (stretch: string, treatment: VoiceTreatment): Promise<string> =>
  maker.fileAt(treatedPath(stretch, treatment), async (out) => {
    const voice = await here(voicePath(stretch))
    const length = (((await sizeOf(voice)) ?? 0) / BYTES_A_SAMPLE / SAMPLE_RATE) * 1000
    const apart = { ...apartBounds(), time: TIME.beside + length * TIME.share }
    await treatVoice({ voice, out, treatment, facts: await voiceFacts(stretch), apart })
  })

/** A treated voice, packed for listening; it is made if it is not there. @throws ProcessFailed when it cannot be made */
export async function treatedSound(stretch: string, treatment: VoiceTreatment): Promise<string> {
  const voice = await treatedVoice(stretch, treatment)
  return await madeInCache(voice.replace(/pcm$/, 'webm'), (out) => packVoice(voice, out))
}

/**
 * Makes all treated voices that parts are heard from, those that are not there.
 * @param onShare hears how many of them are there, 0 to 1
 */
export async function readyVoices(parts: readonly Wanted[], signal?: AbortSignal, onShare?: (share: number) => void): Promise<void> {
  const wanted = parts.flatMap(({ stretch, treatment }) => (treatment === undefined ? [] : [{ stretch, treatment }]))
  const each = wanted.filter((one, n) => wanted.findIndex((other) => dequal(other, one)) === n)
  for (const [n, { stretch, treatment }] of each.entries()) {
    signal?.throwIfAborted()
    await treatedVoice(stretch, treatment)
    onShare?.((n + 1) / each.length)
  }
}
