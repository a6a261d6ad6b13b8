import { SMALL_FORM } from '@core/bundle'
import { ensureBuilt } from '../scripts/start/build'
import { unzipped } from '../tests/harness/unzipped'
import { demoProduct, demoTalk } from './demo-product'
import { lengthened } from './lengthened'
import type { Figure } from './figure'

const MEGABYTE = 1e6
const MOST = 4
/** Copies of the demo talk that are ten minutes together; each has slides of its own. */
const COPIES = 5

/** Bytes of a ten-minute talk in its small form, unpacked: what a phone has to take. */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    await lengthened(talk, COPIES)
    const { database } = await import('@server/database')
    const { finishedExport, orderExport, removeJob } = await import('@server/domain')
    const { exportPath } = await import('@server/store')
    const { alone } = await import('@server/worker/claims')
    const { makeExportTask } = await import('@server/worker/exports')
    const db = database()
    await db.transaction().execute((q) => orderExport(q, talk, { kind: 'small-bundle', lines: 720, deliveries: false }))
    const { id } = await db.selectFrom('talk_export').select('id').where('talk', '=', talk).executeTakeFirstOrThrow()
    await removeJob(db, `make-export:${id}`)
    const began = performance.now()
    await alone('make-export', id, makeExportTask)
    const took = Math.round(performance.now() - began)
    await finishedExport(db, talk, 'small-bundle')
    const row = await db.selectFrom('talk_export').select(['bytes', 'length_ms']).where('id', '=', id).executeTakeFirstOrThrow()
    const files = [...(await unzipped(exportPath(id)))]
    const bytes = files.reduce((sum, [, content]) => sum + content.length, 0)
    const length = row.length_ms ?? 0
    const value = Number(((bytes * SMALL_FORM.length) / length / MEGABYTE).toFixed(2))
    const pictures = files.filter(([name]) => /\/p\d+\.jpg$/.test(name)).length
    return {
      value,
      unit: 'MB for ten minutes',
      target: 'under 4',
      ok: value < MOST,
      detail: { bytes, zipped: row.bytes, length, pictures, took },
    }
  } finally {
    end()
  }
}
