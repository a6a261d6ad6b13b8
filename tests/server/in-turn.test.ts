import { sql } from 'kysely'
import { expect, inject, it } from 'vitest'
import { connect } from '@server/database/connect'

it('asks one thing at a time of a transaction that is asked several, in their order, and goes on after one that fails', async () => {
  const { db } = connect(inject('cluster'), () => undefined)
  const warned: string[] = []
  const warn = ({ message }: Error): void => {
    warned.push(message)
  }
  process.on('warning', warn)
  try {
    const answers = await db
      .transaction()
      .execute((q) =>
        Promise.allSettled([
          sql<{ n: number }>`select 1 as n from pg_sleep(0.05)`.execute(q),
          sql<{ n: number }>`select 2 as n`.execute(q),
          sql`select no_such_thing`.execute(q),
        ]),
      )
    expect(answers.map((answer) => (answer.status === 'fulfilled' ? answer.value.rows : 'refused'))).toEqual([
      [{ n: 1 }],
      [{ n: 2 }],
      'refused',
    ])
    expect((await sql<{ n: number }>`select 3 as n`.execute(db)).rows).toEqual([{ n: 3 }])
    expect(warned).toEqual([])
  } finally {
    process.off('warning', warn)
    await db.destroy()
  }
})
