import { readFile } from 'node:fs/promises'
import Joi from 'joi'
import type { PicturesSeen } from '@render/probe'
import { decodedPath, here, rawPath, readingPath, sizeOf, writeWhole } from '@server/store'

/** What was found while a recording was put together and its sound decoded: it can be played. */
export interface Reading {
  /** Bytes of the recording as it came. */
  readonly bytes: number
  /** SHA-256 of those. */
  readonly digest: string
  /** Bytes of its sound. */
  readonly decoded: number
  /** LUFS; null when it is too quiet to be judged. */
  readonly loudness: number | null
  /** When its pictures come; null when it has none. */
  readonly pictures: PicturesSeen | null
}

const span = Joi.object({ from: Joi.number().required(), to: Joi.number().required() })

const shape = Joi.object<Reading>({
  bytes: Joi.number().integer().min(0).required(),
  digest: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .required(),
  decoded: Joi.number().integer().min(0).required(),
  loudness: Joi.number().allow(null).required(),
  pictures: Joi.object({ first: Joi.number().required(), last: Joi.number().required(), gaps: Joi.array().items(span).required() })
    .allow(null)
    .required(),
})

/** Notes what was found, once both files stand under their names. */
export const keepReading = (stretch: string, reading: Reading): Promise<void> =>
  writeWhole(readingPath(stretch), Buffer.from(JSON.stringify(reading)))

function readingIn(text: string): Reading | null {
  try {
    const { value, error } = shape.validate(JSON.parse(text))
    return error === undefined ? value : null
  } catch {
    return null
  }
}

/**
 * What was found before.
 * @param bytes that the recording has come to
 * @returns null when it was not read yet, or when more of it has come since, or what was written is not all there
 */
export async function keptReading(stretch: string, bytes: number): Promise<Reading | null> {
  const text = await readFile(await here(readingPath(stretch)), 'utf8').catch(() => null)
  const reading = text === null ? null : readingIn(text)
  if (reading?.bytes !== bytes) return null
  const there = (await sizeOf(rawPath(stretch))) === bytes && (await sizeOf(decodedPath(stretch))) === reading.decoded
  return there ? reading : null
}
