import { spawnSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Programme } from '@core/model'
import { startCluster } from '../scripts/start/postgres'

/** A database and data folder of the bench's own with the demo talks in it, set as this process's own. @returns what ends it */
export async function demoProduct(): Promise<() => void> {
  const data = mkdtempSync(join(tmpdir(), 'aisle-bench-'))
  chmodSync(data, 0o755)
  const cluster = await startCluster(data)
  process.env['DATABASE_URL'] = cluster.url
  process.env['AISLE_DATA'] = data
  process.env['AISLE_LOG'] ??= 'info'
  for (const script of ['scripts/migrate.ts', 'demo/seed/main.ts']) {
    const ended = spawnSync(process.execPath, ['--import', 'tsx', script], { env: process.env, stdio: 'inherit' })
    if (ended.status !== 0) throw new Error(`${script} failed`)
  }
  return () => {
    cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

/** Makes a delivery of the demo talk by the worker's own task, from nothing. @returns ms it took and the file */
export async function deliverDemo(lines: number, change: (programme: Programme) => Programme): Promise<{ readonly took: number, readonly file: string, readonly length: number }> {
  const { database } = await import('@server/database')
  const { currentProgramme, orderDelivery, saveProgramme } = await import('@server/domain')
  const { deliverTask } = await import('@server/worker/tasks/deliver')
  const { deliveryPath, removeTree, segmentFolder } = await import('@server/store')
  const db = database()
  const { id: talk } = await db.selectFrom('talk').select('id').where('name', '=', 'The rule of twelfths').executeTakeFirstOrThrow()
  const before = await currentProgramme(db, talk)
  const changed = change(before)
  if (changed !== before) await saveProgramme(db, talk, { ...changed, revision: before.revision + 1 }, 'bench')
  await removeTree(segmentFolder())
  const delivery = await orderDelivery(db, talk, { lines: lines as 1080, quality: 'good', name: 'bench', limit: { kind: 'none' } })
  const began = performance.now()
  await deliverTask(delivery)
  const took = performance.now() - began
  const row = await db.selectFrom('delivery').select(['state', 'sentence', 'facts']).where('id', '=', delivery).executeTakeFirstOrThrow()
  if (row.state !== 'done') throw new Error(row.sentence ?? 'the delivery is not done')
  return { took, file: deliveryPath(delivery), length: row.facts?.length ?? 0 }
}
