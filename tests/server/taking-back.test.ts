import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { connect } from '@server/database/connect'
import type { Database } from '@server/database'
import { createTalk, localPerson, saveDeck, slidesOf, takeBackImport } from '@server/domain'
import { slide } from '@core/testing'
import { EMPTY_PROGRAMME } from '@core/model'
import type { SlideId } from '@core/model'
import { emptyDatabase } from '../harness/empty-database'

let db: Database

beforeAll(async () => {
  db = connect(await emptyDatabase(inject('cluster'), 'taking_back'), () => undefined).db
})
afterAll(async () => {
  await db.destroy()
})

it('takes back what a refused deck put in, and leaves what was worked on or is shown in a talk', async () => {
  const person = await localPerson(db)
  const talk = await createTalk(db, person.id, 'Knots', null)
  const [plain, noted, shown] = Array.from({ length: 3 }, () => slide(randomUUID())) as [
    ReturnType<typeof slide>,
    ReturnType<typeof slide>,
    ReturnType<typeof slide>,
  ]
  const id = randomUUID()
  await db.transaction().execute(async (q) => {
    await q.updateTable('talk').set({ revision: 1 }).where('id', '=', talk).execute()
    await saveDeck(q, talk, [], [plain, noted, shown], 1)
    await q
      .insertInto('import')
      .values({
        id,
        talk,
        name: 'deck.pdf',
        files: JSON.stringify([]),
        state: 'reading',
        pages_total: 60,
        sentence: null,
        place: null,
        builds: null,
        slides: JSON.stringify([plain.id, noted.id, shown.id]),
        revisions: JSON.stringify([1, 1, 1]),
      })
      .execute()
  })
  // Meanwhile somebody writes notes on one, and records over another.
  const before = await slidesOf(db, talk)
  await saveDeck(
    db,
    talk,
    before,
    before.map((one) => (one.id === noted.id ? { ...one, notes: 'over, under' } : one)),
    2,
  )
  const value = { ...EMPTY_PROGRAMME, slides: { [shown.id]: 1 } as Record<SlideId, number>, revision: 1 }
  await db
    .insertInto('programme')
    .values({
      talk,
      revision: 1,
      value: JSON.stringify(value),
      length_ms: 0,
      reason: JSON.stringify({ kind: 'slides' }),
      author: null,
      role: 'edit',
      takes_back: null,
    })
    .execute()
  expect(await db.transaction().execute((q) => takeBackImport(q, id))).toBe(2)
  expect((await slidesOf(db, talk)).map((one) => one.id)).toEqual([noted.id, shown.id])
  expect(await db.transaction().execute((q) => takeBackImport(q, id))).toBe(0)
})
