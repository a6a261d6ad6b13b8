import { randomUUID } from 'node:crypto'
import { Migrator, sql } from 'kysely'
import pg from 'pg'
import { expect, inject, it } from 'vitest'
import { connect, migrate } from '@server/database/connect'
import { migrations } from '@server/database/migrations'
import { databaseAt } from '../harness/empty-database'

const TAKE = '3f0c9a5e-0f0a-4c46-9b59-0a43ad40d2d1'
/** Why programmes were changed, as it was said and as it is kept. */
const WHY = [
  { said: `take ${TAKE}`, kept: { kind: 'take', take: TAKE } },
  { said: `discarded take ${TAKE}`, kept: { kind: 'discard', take: TAKE } },
  { said: 'cut 12 parts', kept: { kind: 'cut', parts: 12 } },
  { said: 'took the face off', kept: { kind: 'framing', off: true } },
  { said: 'take', kept: { kind: 'other' } },
] as const

it('brings a database of the first version up to date with all that is in it', async () => {
  const name = `migrate_${randomUUID().replaceAll('-', '')}`
  const admin = new pg.Client({ connectionString: inject('cluster') })
  await admin.connect()
  await admin.query(`create database ${name}`)
  const { db } = connect(databaseAt(inject('cluster'), name), () => undefined)
  try {
    await new Migrator({ db, provider: { getMigrations: () => Promise.resolve({ ...migrations }) } }).migrateTo('0001-first')
    const [person, talk, slide] = [randomUUID(), randomUUID(), randomUUID()]
    const framing = { rect: { x: 0.1, y: 0.2, w: 0.2, h: 0.3 }, outline: 'round', mirrored: true, off: false }
    await db.transaction().execute(async (q) => {
      await sql`insert into person (id, name) values (${person}, 'Maren')`.execute(q)
      await sql`insert into talk (id, owner, name, shape, recipe) values (${talk}, ${person}, 'Knots',
        '{"width": 16, "height": 9}', '{}')`.execute(q)
      await sql`insert into slide (id, talk, position, version, title, notes, skip) values (${slide}, ${talk}, 0, 1, 'Bowline',
        'over, under', false)`.execute(q)
      await sql`insert into slide_version (slide, version, steps, framing) values (${slide}, 1, '[{}]',
        ${JSON.stringify(framing)})`.execute(q)
      const pieces = [
        { kind: 'still', length: 1500 },
        { kind: 'recorded', show: { from: 500, to: 3500 }, rate: { num: 27, den: 25 } },
      ]
      for (const [revision, value] of [{ pieces }, ...WHY.slice(1).map(() => ({ pieces: [] }))].entries())
        await sql`insert into programme (talk, revision, value, reason) values (${talk}, ${revision + 1}, ${JSON.stringify(value)},
          ${WHY[revision]?.said})`.execute(q)
    })
    expect(await migrate(db)).toEqual(Object.keys(migrations).slice(1))
    const row = await db
      .selectFrom('slide')
      .innerJoin('slide_version', 'slide_version.slide', 'slide.id')
      .selectAll()
      .executeTakeFirstOrThrow()
    expect(row).toMatchObject({
      title: 'Bowline',
      notes: 'over, under',
      viewer_notes: '',
      composition: null,
      transition: 'cut',
      optional: false,
    })
    expect(row.framing).toEqual({ ...framing, placing: 'over', border: 'thin', zoom: 1, centre: { x: 0.5, y: 0.5 } })
    expect((await db.selectFrom('talk').select('language').executeTakeFirstOrThrow()).language).toBe('en')
    expect(await db.selectFrom('programme').select(['length_ms', 'role', 'author', 'takes_back']).orderBy('revision').execute()).toEqual(
      [1500 + Math.round((3000 * 25) / 27), ...WHY.slice(1).map(() => 0)].map((length) => ({
        length_ms: length,
        role: 'edit',
        author: null,
        takes_back: null,
      })),
    )
    expect((await db.selectFrom('programme').select('reason').orderBy('revision').execute()).map(({ reason }) => reason)).toEqual(
      WHY.map(({ kept }) => kept),
    )
    expect((await db.selectFrom('talk').select('recipe').executeTakeFirstOrThrow()).recipe).toEqual({
      captions: 'inside',
      rate: 30,
      without: { face: false, ink: false, voice: false },
      format: 'mp4',
      size: null,
      bits: { kind: 'free' },
      loudness: -16,
      part: { kind: 'all' },
      timing: 'recorded',
      each: 'talk',
      fields: {},
    })
    expect(await migrate(db)).toEqual([])
  } finally {
    await db.destroy()
    await admin.query(`drop database ${name}`)
    await admin.end()
  }
})
