import type { Selectable } from 'kysely'
import { database } from '@server/database'
import type { StretchTable } from '@server/database'
import { assetsKept, filesWithDigests, isReadyAs, makeFileAgain, stretchesWithDigests } from '@server/domain'
import { log } from '@server/log'
import { assetPath, deliveryPath, digestKept, rawPath, recordingPath, voicePath } from '@server/store'
import { ClaimLost, alone } from '../claims'
import { makeReadyAgain, settleStretch } from './ready-stretch'

/** Notes what the files of a stretch hold where that was not come to before. */
const settle = (stretch: Selectable<StretchTable>): Promise<void> =>
  alone('finish-take', stretch.take, async (_, claim) => {
    if (await isReadyAs(database(), stretch.id, stretch.raw_digest)) await settleStretch(database(), stretch, claim)
  })

/** What came out of a check. */
export interface Checked {
  /** Files that were read. */
  readonly read: number
  /** Files that were missing or damaged and have been made again, or are about to be. */
  readonly again: number
  /** Files that are missing or damaged and could be made again, where that was not asked for. */
  readonly damaged: readonly string[]
  /** Files that are missing or damaged and cannot be made: they are to be brought back from a copy of the data folder. */
  readonly lost: readonly string[]
}

/** Whether a file is there and holds what it did. */
const isSound = async (path: string, digest: string | null): Promise<boolean> =>
  digest === null || (await digestKept(path).catch(() => null)) === digest

/**
 * Reads files that must not be lost, and makes those again that can be: a recording and its voice from the recording as it came, a
 * finished film from its talk. Can be broken off and repeated at any point.
 * @param repair false: it is only said what is missing or damaged
 * @param since only of takes and files begun after that, and no decks; null: all there are
 */
export async function checkKept(since: Date | null, repair = true): Promise<Checked> {
  const db = database()
  const [lost, damaged]: [string[], string[]] = [[], []]
  let [read, again] = [0, 0]
  const checkStretch = async (stretch: Selectable<StretchTable>): Promise<void> => {
    const raw = await isSound(rawPath(stretch.id), stretch.raw_digest)
    const made =
      (await isSound(recordingPath(stretch.id), stretch.recording_digest)) && (await isSound(voicePath(stretch.id), stretch.voice_digest))
    read += 3
    if (!raw) lost.push(rawPath(stretch.id))
    if (made) {
      if (stretch.voice_digest === null) await settle(stretch)
      return
    }
    if (!raw) {
      lost.push(recordingPath(stretch.id))
      return
    }
    if (!repair) {
      damaged.push(recordingPath(stretch.id))
      return
    }
    await alone('finish-take', stretch.take, async (_, claim) => {
      // More of it may have come, and been made ready, before it was this one's turn.
      if (!(await isReadyAs(db, stretch.id, stretch.raw_digest))) return
      await makeReadyAgain(db, stretch, claim)
      again += 1
    })
  }
  for await (const stretch of stretchesWithDigests(db, since)) {
    await checkStretch(stretch).catch((fault: unknown) => {
      // More of it has come meanwhile, and whoever makes it ready with that puts it right.
      if (fault instanceof ClaimLost) return
      log.error({ err: fault, stretch: stretch.id }, 'a recording could not be made again')
      lost.push(recordingPath(stretch.id))
    })
  }
  for await (const { id, talk, digest } of filesWithDigests(db, since)) {
    read += 1
    if (await isSound(deliveryPath(id), digest)) continue
    if (!repair) {
      damaged.push(deliveryPath(id))
      continue
    }
    await db.transaction().execute((q) => makeFileAgain(q, talk, id))
    again += 1
  }
  if (since === null) {
    for await (const { digest } of assetsKept(db)) {
      read += 1
      if (!(await isSound(assetPath(digest), digest))) lost.push(assetPath(digest))
    }
  }
  return { read, again, damaged, lost }
}

/** How far back is read when a worker begins, in ms: what was being written when the power went. */
const RECENT = 86_400_000

async function checkAndSay(since: Date | null): Promise<void> {
  const checked = await checkKept(since)
  if (checked.lost.length > 0) log.error(checked, 'files are missing or damaged; bring them back from a copy of the data folder')
  else log.info(checked, 'what is kept was checked')
}

export const checkAllTask = (): Promise<void> => checkAndSay(null)
export const checkRecentTask = (): Promise<void> => checkAndSay(new Date(Date.now() - RECENT))
