import { randomUUID } from 'node:crypto'
import { mkdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Refusal, asId } from '@core/model'
import type { AssetId, Slide, Step } from '@core/model'
import { readDeckApart } from '@render/deck'
import type { DeckMessage, ReadStep } from '@render/deck'
import { database } from '@server/database'
import type { Queries } from '@server/database'
import { saveDeck, slidesOf, tell } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { assetPath, keepAsset, removeTree, uploadFolder } from '@server/store'

async function keepPicture(q: Queries, talk: string, path: string): Promise<AssetId> {
  const bytes = await readFile(path)
  const digest = await keepAsset(bytes)
  await q.insertInto('asset').values({ talk, digest, mime: 'image/webp', bytes: bytes.length })
    .onConflict((conflict) => conflict.doNothing()).execute()
  return asId(digest)
}

/** Reads files into a talk's deck, slide by slide, so that the first is there at once. */
export async function readDeckTask(id: string): Promise<void> {
  const db = database()
  const row = await db.selectFrom('import').selectAll().where('id', '=', id).executeTakeFirst()
  if (row === undefined || row.state === 'done' || row.state === 'failed') return
  const { talk } = row
  const out = join(uploadFolder(), `deck-${id}`)
  const made: string[] = []
  let pages = 0

  const toStep = async (step: ReadStep): Promise<Step> => {
    const screen = await keepPicture(db, talk, join(out, step.screen))
    const thumb = await keepPicture(db, talk, join(out, step.thumb))
    const source = asId<'asset'>(row.files[step.file]?.digest ?? '')
    const picture = step.kind === 'page'
      ? { kind: step.kind, source, page: step.page, size: step.size, screen, thumb } as const
      : { kind: step.kind, source, size: step.size, ground: step.ground, screen, thumb } as const
    return { picture, content: step.content, text: step.text }
  }

  const hear = async (message: DeckMessage): Promise<void> => {
    if (message.kind === 'plan') {
      await db.updateTable('import').set({ pages_total: message.pages }).where('id', '=', id).execute()
      // A deck that is still empty takes the shape of what comes in.
      await db.updateTable('talk').set({ shape: JSON.stringify(message.shape) }).where('id', '=', talk)
        .where((build) => build.not(build.exists(build.selectFrom('slide').select('slide.id').where('slide.talk', '=', talk)))).execute()
    }
    if (message.kind === 'slide') {
      const steps: Step[] = []
      for (const step of message.steps) steps.push(await toStep(step))
      pages += steps.length
      const slide: Slide = { id: asId(randomUUID()), version: 1, title: message.title, notes: '', steps, framing: null, planned: null, skip: false }
      made.push(slide.id)
      await db.transaction().execute(async (q) => {
        const { revision } = await q.updateTable('talk').set((build) => ({ revision: build('revision', '+', 1), changed: new Date() }))
          .where('id', '=', talk).returning('revision').executeTakeFirstOrThrow()
        const before = await slidesOf(q, talk)
        await saveDeck(q, talk, before, [...before, slide], revision)
        await q.updateTable('import').set({ pages_done: pages }).where('id', '=', id).execute()
        await tell(q, { talk, kind: 'deck', id: null })
      })
    }
  }

  const takeBack = async (): Promise<void> => {
    await db.transaction().execute(async (q) => {
      if (made.length > 0) await q.deleteFrom('slide').where('id', 'in', made).execute()
    })
  }

  try {
    await db.updateTable('import').set({ state: 'reading', pages_done: 0 }).where('id', '=', id).execute()
    await mkdir(out, { recursive: true })
    await readDeckApart(
      { files: row.files.map((file) => ({ path: assetPath(file.digest), name: file.name })), out, maxPages: settings().maxPages },
      { time: settings().importTime, memory: settings().importMemory, home: process.cwd() },
      hear,
    )
    await db.updateTable('import').set({ state: 'done' }).where('id', '=', id).execute()
  } catch (error) {
    await takeBack()
    if (!(error instanceof Refusal)) throw error
    log.info({ import: id, detail: error.detail }, 'deck refused')
    const file = error.detail['file']
    const named = typeof file === 'string' && row.files.length > 1 ? `“${file}”: ${error.message}` : error.message
    await db.updateTable('import').set({ state: 'failed', sentence: `${named} The talk is as it was.` }).where('id', '=', id).execute()
  } finally {
    await removeTree(out)
    await tell(db, { talk, kind: 'import', id })
  }
}

/** Says so when reading a deck failed for a reason of ours. */
export async function readDeckGivenUp(id: string): Promise<void> {
  const row = await database().updateTable('import')
    .set({ state: 'failed', sentence: 'Reading this deck failed on our side. The file is kept; try again, and tell whoever runs this server if it fails again.' })
    .where('id', '=', id).where('state', '<>', 'done').returning('talk').executeTakeFirst()
  if (row !== undefined) await tell(database(), { talk: row.talk, kind: 'import', id })
}
