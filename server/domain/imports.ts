import { randomUUID } from 'node:crypto'
import { orderBy } from 'natural-orderby'
import { Refusal } from '@core/model'
import type { Queries } from '@server/database'
import { keepFile } from '@server/store'
import { tell } from './events'
import { addJob } from './jobs'

export interface Uploaded {
  readonly path: string
  readonly name: string
  readonly bytes: number
}

/**
 * Takes in files for a talk's deck: kept under their digests, then read by a job in the order a person would count them.
 * @param place where its slides go, counted from 0; null for the end
 * @throws Refusal `malformed` when there is none
 */
export async function beginImport(q: Queries, talk: string, files: readonly Uploaded[], place: number | null = null): Promise<string> {
  if (files.length === 0) throw new Refusal('malformed', 'No file arrived. Drop a PDF, pictures or a text here.')
  const empty = files.find((file) => file.bytes === 0)
  if (empty !== undefined) throw new Refusal('unreadable', `“${empty.name}” is empty. Nothing was changed.`)
  const ordered = orderBy([...files], [(file) => file.name])
  const kept: { digest: string, name: string }[] = []
  for (const file of ordered) {
    const digest = await keepFile(file.path)
    kept.push({ digest, name: file.name })
    await q.insertInto('asset').values({ talk, digest, mime: 'application/octet-stream', bytes: file.bytes })
      .onConflict((conflict) => conflict.doNothing()).execute()
  }
  const id = randomUUID()
  const name = ordered.length === 1 ? ordered[0]?.name ?? '' : `${String(ordered.length)} files`
  await q.insertInto('import').values({ id, talk, name, files: JSON.stringify(kept), state: 'queued', pages_total: null, sentence: null, place, builds: null, slides: null }).execute()
  await addJob(q, 'read-deck', { id }, `read-deck:${id}`)
  await tell(q, { talk, kind: 'import', id })
  return id
}

/** Its offer of steps was taken up or turned down: it is not made again. */
export async function settleBuilds(q: Queries, talk: string, id: string): Promise<void> {
  await q.updateTable('import').set({ builds: null }).where('id', '=', id).where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'import', id })
}
