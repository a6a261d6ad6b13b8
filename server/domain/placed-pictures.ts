import { randomUUID } from 'node:crypto'
import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { MOST_PICTURES, Refusal } from '@core/model'
import type { ComposedPicture } from '@core/model'
import { readDeckApart } from '@render/deck'
import type { ReadPicture } from '@render/deck'
import type { Queries } from '@server/database'
import { apartBounds } from '@server/settings'
import { removeTree, uploadFolder } from '@server/store'
import { inTurn } from './in-turn'
import { keepForTalk } from './kept-for-talk'
import type { Uploaded } from './kept-for-talk'
import { roomInQuota } from './quotas'

/** How pictures of steps and pictures placed on slides are stored. */
export const JPEG = 'image/jpeg'
export const WEBP = 'image/webp'

/** Reading a few pictures takes no longer than this, ms. */
const PATIENCE = 60_000

/**
 * Takes in pictures to be placed on a slide that is made here. They are read in a process of their own and kept as we
 * packed them, never as they came.
 * @throws Refusal when there are none or too many, or one cannot be read
 */
export async function takeInPictures(q: Queries, talk: string, files: readonly Uploaded[]): Promise<readonly ComposedPicture[]> {
  const out = join(uploadFolder(), `pictures-${randomUUID()}`)
  try {
    if (files.length === 0) throw new Refusal('malformed', 'No picture arrived. Drop a PNG, JPEG or WebP here.')
    if (files.length > MOST_PICTURES) throw new Refusal('too-many', `A slide takes up to ${String(MOST_PICTURES)} pictures.`)
    await roomInQuota(
      q,
      talk,
      files.reduce((sum, file) => sum + file.bytes, 0),
    )
    await mkdir(out, { recursive: true })
    const read: ReadPicture[] = []
    await inTurn(() =>
      readDeckApart(
        { files, out, purpose: 'pictures', maxPages: MOST_PICTURES, maxUnpacked: 0, converter: null },
        { ...apartBounds(), time: PATIENCE },
        (message) => {
          if (message.kind === 'picture') read.push(message.picture)
          return Promise.resolve()
        },
      ),
    )
    const pictures: ComposedPicture[] = []
    for (const { file, size, alt } of read) pictures.push({ asset: await keepForTalk(q, talk, join(out, file), WEBP), size, alt })
    return pictures
  } finally {
    await removeTree(out)
  }
}
