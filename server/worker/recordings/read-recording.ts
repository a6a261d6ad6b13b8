import { checkRecording } from '@render/probe'
import { BYTES_A_SAMPLE, concatenate, decodeRecording } from '@render/sound'
import type { Database } from '@server/database'
import { bytesOfChunks } from '@server/domain'
import { allHere, chunkPath, decodedPath, digestOfFile, here, keptSafe, rawPath, sizeOf, stage } from '@server/store'
import { alone } from '../claims'
import type { Claim } from '../claims'
import { READING, followers } from './followers'
import { partOf } from './part-of'
import { keepReading, keptReading } from './reading'
import type { Reading } from './reading'

/** Puts a recording together from its chunks, unless it is there. One that was closed before all of it had come is put together anew. */
export async function putTogether(db: Database, claim: Claim, stretch: string, count: number, bytes: number): Promise<void> {
  const raw = rawPath(stretch)
  if ((await sizeOf(raw)) === bytes) {
    await keptSafe(await here(raw))
    return
  }
  const part = partOf(raw, claim)
  const chunks = Array.from({ length: count }, (_, n) => chunkPath(stretch, n))
  await allHere(chunks)
  await concatenate(chunks, part)
  const staged = await stage(part)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await staged.putUnder(raw)
  })
}

/**
 * Decodes the sound of a recording that is there.
 * @throws Refusal when the recording cannot be played, ProcessFailed when its sound cannot be decoded
 */
export async function readWhole(db: Database, stretch: string, claim: Claim): Promise<Reading> {
  const [raw, part] = [await here(rawPath(stretch)), partOf(decodedPath(stretch), claim)]
  const pictured = await checkRecording(raw)
  const digested = digestOfFile(raw)
  // It is waited for further down; until then its failure is nobody's.
  digested.catch(() => undefined)
  const { samples, loudness, pictures } = await decodeRecording({ path: raw }, part, { pictured })
  const reading = { bytes: (await sizeOf(raw)) ?? 0, digest: await digested, decoded: samples * BYTES_A_SAMPLE, loudness, pictures }
  const staged = await stage(part)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await staged.putUnder(decodedPath(stretch))
    await keepReading(stretch, reading)
  })
  return reading
}

/**
 * A closed recording put together, and its sound decoded: as a rule that is done already, while it was made.
 * @param count of its chunks
 * @throws Refusal when it cannot be played, ClaimLost
 */
export async function readRecording(db: Database, stretch: string, count: number): Promise<Reading> {
  await followers.finished(stretch)
  let found: Reading | null = null
  await alone(READING, stretch, async (_, claim) => {
    // One that did not come in chunks lies there as it came.
    const bytes = (await bytesOfChunks(db, stretch, count)) ?? (await sizeOf(rawPath(stretch))) ?? 0
    found = await keptReading(stretch, bytes)
    if (found !== null) return
    await putTogether(db, claim, stretch, count, bytes)
    found = await readWhole(db, stretch, claim)
  })
  if (found === null) throw new Error(`not read: ${stretch}`)
  return found
}
