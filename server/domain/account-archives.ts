import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { namesInFolder } from '@core/bundle'
import { Refusal, asId } from '@core/model'
import type { AccountArchive } from '@contracts'
import type { Queries } from '@server/database'
import { exportPath, here } from '@server/store'
import { orderExport } from './talk-exports'

/** Talks of a person that have slides, with their archives. */
const rowsOf = (q: Queries, owner: string) =>
  q
    .selectFrom('talk')
    .leftJoin('talk_export', (join) => join.onRef('talk_export.talk', '=', 'talk.id').on('talk_export.kind', '=', 'archive'))
    .select(['talk.id', 'talk.name', 'talk.revision', 'talk.programme_revision as programme'])
    .select(['talk_export.id as export', 'state', 'share', 'bytes', 'sentence', 'file', 'talk_revision'])
    .select('talk_export.programme_revision')
    .where('talk.owner', '=', owner)
    .where('talk.deleted', 'is', null)
    .where((is) => is.exists(is.selectFrom('slide').select('slide.id').whereRef('slide.talk', '=', 'talk.id')))
    .orderBy('talk.created')
    .execute()

/** The archives of all of a person's talks. */
export async function accountArchives(q: Queries, owner: string): Promise<readonly AccountArchive[]> {
  return (await rowsOf(q, owner)).map(
    ({ id, name, state, share, bytes, sentence, revision, talk_revision, programme, programme_revision }) => ({
      talk: asId(id),
      name,
      made:
        state === null
          ? null
          : { state, share: share ?? 0, bytes, sentence, current: talk_revision === revision && programme_revision === programme },
    }),
  )
}

/** Has an archive made of each of a person's talks of which there is none as it is now. In one transaction. */
export async function orderAccountArchives(q: Queries, owner: string): Promise<void> {
  for (const { talk, made } of await accountArchives(q, owner)) {
    const there = made !== null && made.current && made.state === 'done'
    const comes = made?.state === 'queued' || made?.state === 'making'
    if (!there && !comes) await orderExport(q, talk, { kind: 'archive', lines: 720, deliveries: true })
  }
}

/** Finished archives of a person's talks, with the names that they have side by side. */
export async function finishedArchives(q: Queries, owner: string): Promise<readonly { readonly name: string; readonly path: string }[]> {
  const rows = (await rowsOf(q, owner)).filter(({ bytes }) => bytes !== null)
  const names = namesInFolder(rows.map(({ file }) => file ?? 'talk.zip'))
  return rows.map((row, n) => ({ name: names[n] ?? 'talk.zip', path: exportPath(row.export ?? '') }))
}

/** All of them as one file, which is read while it is sent. @throws Refusal `conflict` when there is none */
export async function zippedArchives(q: Queries, owner: string): Promise<Readable> {
  const files = await finishedArchives(q, owner)
  if (files.length === 0) throw new Refusal('conflict', 'No archive is there yet.')
  const zip = new ZipFile()
  for (const { name, path } of files) zip.addFile(await here(path), name, { compress: false })
  zip.end()
  return zip.outputStream as Readable
}
