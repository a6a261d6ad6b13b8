import { mkdir, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { Refusal } from '@core/model'
import type { ExportKind } from '@contracts'
import { database } from '@server/database'
import { exportDone, exportFailed, exportToMake } from '@server/domain'
import { log } from '@server/log'
import { exportFolder, exportPath, removeTree, safeFolder, stage, storeIsFull, uploadFolder } from '@server/store'
import type { Claim } from '../claims'
import { ExportWatch } from './export-work'
import type { ExportMaker } from './export-work'
import { makeArchive } from './make-archive'
import { makeBundle } from './make-bundle'
import { makeNarrated } from './make-narrated'
import { makeShown } from './make-shown'
import { makeSmallBundle } from './make-small-bundle'

const MAKERS: Readonly<Record<ExportKind, ExportMaker>> = {
  bundle: makeBundle,
  'small-bundle': makeSmallBundle,
  shown: makeShown,
  'narrated-deck': makeNarrated,
  archive: makeArchive,
}

/** Makes something of a talk to be taken along. Asked again after a stop, it is begun again with the parts of the film that are there. */
export async function makeExportTask(id: string, claim: Claim): Promise<void> {
  const db = database()
  const of = await exportToMake(db, id)
  if (of === null) return
  const label = `export-${id}-${String(claim.number)}`
  const folder = join(uploadFolder(), label)
  const out = `${exportPath(id)}.${String(claim.number)}.part`
  await safeFolder(exportFolder(id))
  await mkdir(folder, { recursive: true })
  const watch = new ExportWatch(db, of)
  try {
    const facts = await MAKERS[of.kind]({ db, of, out, folder, label, watch })
    const { size } = await stat(out)
    const staged = await stage(out)
    const kept = await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      return await exportDone(q, of, { bytes: size, ...facts }, () => staged.putUnder(exportPath(id)))
    })
    if (!kept) log.info({ export: id }, 'nobody wants it any more')
  } catch (error) {
    if (watch.needless) log.info({ export: id }, 'an export was stopped')
    else if (error instanceof Refusal) await exportFailed(db, id, error.message)
    else if (await storeIsFull()) {
      await exportFailed(db, id, "The server's disk is full, so this could not be made. Free some space there and try again.")
    } else throw error
  } finally {
    watch.end()
    await rm(out, { force: true })
    await removeTree(folder)
  }
}

/** Says so when it was tried as often as it may be. */
export const makeExportGivenUp = (id: string): Promise<void> =>
  exportFailed(
    database(),
    id,
    'Making this failed on our side. Nothing of the talk was touched; try again, and tell whoever runs this server.',
  )
