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
 * @throws Refusal `malformed` when there is none
 */
export async function beginImport(q: Queries, talk: string, files: readonly Uploaded[]): Promise<string> {
  if (files.length === 0) throw new Refusal('malformed', 'No file arrived. Drop a PDF or pictures here.')
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
  await q.insertInto('import').values({ id, talk, name, files: JSON.stringify(kept), state: 'queued', pages_total: null, sentence: null }).execute()
  await addJob(q, 'read-deck', { id }, `read-deck:${id}`)
  await tell(q, { talk, kind: 'import', id })
  return id
}
