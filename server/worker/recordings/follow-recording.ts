import { createHash } from 'node:crypto'
import { open, rm } from 'node:fs/promises'
import type { FileHandle } from 'node:fs/promises'
import { checkRecording } from '@render/probe'
import { BYTES_A_SAMPLE, decodeRecording } from '@render/sound'
import type { Database } from '@server/database'
import { decodedPath, rawPath, safeFolder, stage, stretchFolder } from '@server/store'
import type { Claim } from '../claims'
import { comingChunks } from './coming-chunks'
import { partOf } from './part-of'
import { keepReading } from './reading'
import type { Wakeable } from './wakeable'

/** A stretch that is being recorded. */
export interface FollowedStretch {
  readonly id: string
  /** Whether its recording is said to have pictures. */
  readonly camera: boolean
}

/** Longest that a recording is followed, in ms; a longer one is read once it is closed. */
const LONGEST = 6 * 3_600_000

/**
 * Puts a recording together and decodes its sound while it is made, so that little is left to do when it is closed. What it leaves is what
 * reading it afterwards leaves.
 * @param wait is woken when it is closed
 * @throws NothingComes, ClaimLost, Refusal when it cannot be played, and ProcessFailed when its sound cannot be decoded
 */
export async function followRecording(db: Database, { id: stretch, camera }: FollowedStretch, claim: Claim, wait: Wakeable): Promise<void> {
  const [raw, decoded] = [partOf(rawPath(stretch), claim), partOf(decodedPath(stretch), claim)]
  await safeFolder(stretchFolder(stretch))
  const file = await open(raw, 'w')
  const digest = createHash('sha256')
  let bytes = 0
  try {
    const passed = passedOn(comingChunks(db, stretch, wait), file, (chunk) => {
      digest.update(chunk)
      bytes += chunk.length
    })
    const { samples, loudness, pictures } = await decodeRecording({ bytes: passed }, decoded, { time: LONGEST, pictured: camera })
    await checkRecording(raw)
    const [rawStaged, decodedStaged] = [await stage(raw), await stage(decoded)]
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await rawStaged.putUnder(rawPath(stretch))
      await decodedStaged.putUnder(decodedPath(stretch))
      const found = { bytes, digest: digest.digest('hex'), decoded: samples * BYTES_A_SAMPLE, loudness, pictures }
      await keepReading(stretch, found)
    })
  } finally {
    await file.close()
    await Promise.all([rm(raw, { force: true }), rm(decoded, { force: true })])
  }
}

/** Hands chunks on once they are written and told. */
async function* passedOn(chunks: AsyncIterable<Buffer>, file: FileHandle, hear: (chunk: Buffer) => void): AsyncGenerator<Buffer> {
  for await (const chunk of chunks) {
    await file.writeFile(chunk)
    hear(chunk)
    yield chunk
  }
}
