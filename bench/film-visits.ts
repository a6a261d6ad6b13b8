import { copyFile } from 'node:fs/promises'
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { visitsOf } from '@core/programme'
import { ensureBuilt } from '../scripts/start/build'
import { deliverNow, demoProduct, demoTalk } from './demo-product'
import type { Figure } from './figure'

const MOST = 100

/** How far the visits that are found in the demo talk's own file lie from where they are in the talk, at worst. */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    const { file } = await deliverNow(talk, { lines: 720 })
    const { database } = await import('@server/database')
    const { addTalk, beginFilm, copySlides, currentProgramme, removeJob, stageUploads } = await import('@server/domain')
    const { digestOfFile, safeFolder, uploadFolder } = await import('@server/store')
    const { alone } = await import('@server/worker/claims')
    const { finishTakeTask } = await import('@server/worker/tasks/finish-take')
    const { readFilmTask } = await import('@server/worker/tasks/read-film')
    const db = database()
    const { owner } = await db.selectFrom('talk').select('owner').where('id', '=', talk).executeTakeFirstOrThrow()
    const slides = await db
      .selectFrom('slide')
      .select('id')
      .where('talk', '=', talk)
      .where('position', 'is not', null)
      .orderBy('position')
      .execute()
    await safeFolder(uploadFolder())
    const path = join(uploadFolder(), randomUUID())
    await copyFile(file, path)
    const staged = await stageUploads([{ path, name: 'film.mp4', bytes: 1, digest: await digestOfFile(path) }])
    const { again, film } = await db.transaction().execute(async (q) => {
      const again = await addTalk(q, owner, 'From its film', null)
      await copySlides(
        q,
        talk,
        slides.map(({ id }) => id),
        again,
        0,
      )
      return { again, film: await beginFilm(q, again, staged) }
    })
    await removeJob(db, `read-film:${film}`)
    const began = performance.now()
    await alone('read-film', film, readFilmTask)
    const took = Math.round(performance.now() - began)
    const { take } = await db.selectFrom('import').select('take').where('id', '=', film).executeTakeFirstOrThrow()
    await removeJob(db, `finish-take:${take ?? ''}`)
    await alone('finish-take', take ?? '', finishTakeTask)
    const [wanted, found] = [await currentProgramme(db, talk), await currentProgramme(db, again)].map((one) => visitsOf(one))
    const apart = (wanted ?? []).map(({ start }, n) => Math.round(Math.abs(start - (found?.[n]?.start ?? Infinity))))
    const value = found?.length === wanted?.length ? Math.max(...apart) : Infinity
    return {
      value,
      unit: 'ms at worst',
      target: `at most ${String(MOST)}`,
      ok: value <= MOST,
      detail: { apart, visits: found?.length, took },
    }
  } finally {
    end()
  }
}
