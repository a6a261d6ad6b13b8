import { sql } from 'kysely'
import type { Database } from '@server/database'

/** Tables of which a school's server has many rows. */
export const LARGE = ['talk', 'talk_card', 'slide', 'slide_version', 'programme', 'take', 'stretch', 'delivery', 'asset', 'share'] as const

/**
 * Copies a talk many times, with its deck, programme, takes and files as rows: nothing of it lies on the disk again, so none of it is
 * checked there.
 * @param talk that is copied; those of its owner's that are made besides are called by numbers
 * @param count of copies, shared out among people with an account
 * @param people so many of those are made
 * @param own so many copies are its owner's
 */
export async function copyTalks(db: Database, talk: string, count: number, people: number, own: number): Promise<void> {
  await db.transaction().execute(async (q) => {
    await sql`insert into person (id, name, email, password)
      select gen_random_uuid(), 'Person ' || n, 'person' || n || '@harbour.example', 'none'
      from generate_series(1, ${people}::integer) as n`.execute(q)
    await sql`create temporary table copied on commit drop as
      select n, gen_random_uuid() as id from generate_series(1, ${count}::integer) as n`.execute(q)
    await sql`create temporary table owners on commit drop as
      select row_number() over (order by id) - 1 as n, id from person where email like 'person%@harbour.example'`.execute(q)
    await sql`insert into talk select (jsonb_populate_record(talk, jsonb_build_object(
        'id', copied.id,
        'owner', case when copied.n <= ${own} then talk.owner else owners.id end,
        'name', 'Talk ' || copied.n,
        'changed', now() - copied.n * interval '1 minute'))).*
      from talk, copied join owners on owners.n = copied.n % ${people} where talk.id = ${talk}`.execute(q)
    await sql`create temporary table copied_slide on commit drop as
      select copied.id as talk, slide.id as was, gen_random_uuid() as id from copied, slide where slide.talk = ${talk}`.execute(q)
    await sql`insert into slide 
      select (jsonb_populate_record(slide, jsonb_build_object('id', copied_slide.id, 'talk', copied_slide.talk))).*
      from copied_slide join slide on slide.id = copied_slide.was`.execute(q)
    await sql`insert into slide_version select (jsonb_populate_record(slide_version, jsonb_build_object('slide', copied_slide.id))).*
      from copied_slide join slide_version on slide_version.slide = copied_slide.was`.execute(q)
    for (const table of ['asset', 'programme'])
      await sql`insert into ${sql.table(table)}
        select (jsonb_populate_record(${sql.table(table)}, jsonb_build_object('talk', copied.id))).*
        from copied, ${sql.table(table)} where ${sql.table(table)}.talk = ${talk}`.execute(q)
    await sql`insert into delivery overriding user value
      select (jsonb_populate_record(delivery, jsonb_build_object('id', gen_random_uuid(), 'talk', copied.id, 'digest', null))).*
      from copied, delivery where delivery.talk = ${talk}`.execute(q)
    await sql`insert into share 
      select (jsonb_populate_record(share, jsonb_build_object('talk', copied.id, 'key', left(md5(copied.id::text), 22)))).*
      from copied, share where share.talk = ${talk}`.execute(q)
    await sql`create temporary table copied_take on commit drop as
      select copied.id as talk, take.id as was, gen_random_uuid() as id from copied, take where take.talk = ${talk}`.execute(q)
    await sql`insert into take select (jsonb_populate_record(take, jsonb_build_object('id', copied_take.id, 'talk', copied_take.talk))).*
      from copied_take join take on take.id = copied_take.was`.execute(q)
    await sql`insert into stretch 
      select (jsonb_populate_record(stretch, jsonb_build_object('id', gen_random_uuid(), 'take', copied_take.id,
        'raw_digest', null))).*
      from copied_take join stretch on stretch.take = copied_take.was`.execute(q)
  })
  await sql`vacuum analyze`.execute(db)
}
