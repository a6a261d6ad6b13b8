import { randomUUID } from 'node:crypto'
import pg from 'pg'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { connect, migrate } from '@server/database/connect'
import type { Database } from '@server/database'
import { createTalk, localPerson, saveDeck, slidesOf, takeBackImport } from '@server/domain'
import { slide } from '@core/testing'
import { EMPTY_PROGRAMME } from '@core/model'
import type { SlideId } from '@core/model'

const name = `taking_back_${randomUUID().replaceAll('-', '')}`
let admin: pg.Client
let db: Database

beforeAll(async () => {
  admin = new pg.Client({ connectionString: inject('cluster') })
  await admin.connect()
  await admin.query(`create database ${name}`)
  const url = new URL(inject('cluster'))
  url.pathname = `/${name}`
  db = connect(url.href, () => undefined).db
  await migrate(db)
})
afterAll(async () => {
  await db.destroy()
  await admin.query(`drop database ${name}`)
  await admin.end()
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
