import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { readCapped } from './read-capped'

/**
 * Reads samples of 16 bits that a page sends.
 * @param most bytes
 * @throws Refusal `malformed` with the sentence when they are none, or too many
 */
export async function samplesSent(event: H3Event, most: number, sentence: string): Promise<Buffer> {
  const body = await readCapped(event, most)
  if (body.length === 0 || body.length % 2 !== 0) throw new Refusal('malformed', sentence)
  return body
}
