import { sql } from 'kysely'
import { plannedTime } from '@core/pace'
import { EMPTY_PROGRAMME } from '@core/model'
import { STEPS, recordedBySlide, stepNeeded, visitsOf } from '@core/programme'
import type { KeptCard, TalkCard, TalkCount, TalkOrder } from '@contracts'
import type { Queries } from '@server/database'
import { slidesOfMany } from './decks'
import { likely } from './likely'

/*
 * What the page of all talks shows is kept ready in rows of its own: reading hundreds of decks for it takes too long. Whatever changes a
 * talk raises the version of its card (see `tell`); a card of an older version is made anew when somebody looks.
 */

/** Cards that are made at a time. */
const MANY = 200

/** Talks that somebody looks for. */
export interface TalkWish {
  /** That the name holds, in any order and case; empty: all talks. */
  readonly words: string
  readonly order: TalkOrder
  /** So many are passed over, and at most so many come. */
  readonly from: number
  readonly most: number
}

/** Makes cards of talks. */
async function cardsOf(q: Queries, talks: readonly string[]): Promise<ReadonlyMap<string, KeptCard>> {
  const rows = await q
    .selectFrom('talk')
    .leftJoin('programme', (join) =>
      join.onRef('programme.talk', '=', 'talk.id').onRef('programme.revision', '=', 'talk.programme_revision'),
    )
    .select((build) => [
      'talk.id',
      'talk.limit_ms',
      'programme.value',
      build
        .exists(
          build
            .selectFrom('import')
            .select('import.id')
            .whereRef('import.talk', '=', 'talk.id')
            .where('import.state', 'in', ['queued', 'reading']),
        )
        .as('importing'),
      build
        .exists(build.selectFrom('take').select('take.id').whereRef('take.talk', '=', 'talk.id').where('take.state', '=', 'open'))
        .as('unfinished'),
      build
        .selectFrom('delivery')
        .whereRef('delivery.talk', '=', 'talk.id')
        .where('delivery.state', '=', 'done')
        .select((inner) => inner.fn.countAll<number>().as('count'))
        .as('deliveries'),
    ])
    .where('talk.id', 'in', talks)
    .execute()
  const decks = await slidesOfMany(q, talks)
  return new Map(
    rows.map((talk) => {
      const slides = decks.get(talk.id) ?? []
      const recorded = recordedBySlide(visitsOf(talk.value ?? EMPTY_PROGRAMME))
      const card: KeptCard = {
        limit: talk.limit_ms,
        picture: slides[0]?.steps[0]?.picture ?? null,
        timelineBlocks: slides
          .filter((slide) => !slide.skip)
          .map((slide) => ({ planned: plannedTime(slide), recorded: recorded.get(slide.id) ?? 0 })),
        deliveries: Number(talk.deliveries ?? 0),
        importing: Boolean(talk.importing),
        unfinished: Boolean(talk.unfinished),
      }
      return [talk.id, card]
    }),
  )
}

/** Makes some of a person's cards anew that are not of the talk as it is. @returns how many were */
async function renewCards(q: Queries, owner: string): Promise<number> {
  const stale = await q
    .selectFrom('talk_card')
    .select(['talk', 'version'])
    .where('owner', '=', owner)
    .where(sql<boolean>`made is distinct from version`)
    .limit(MANY)
    .execute()
  if (stale.length === 0) return 0
  const cards = await cardsOf(
    q,
    stale.map(({ talk }) => talk),
  )
  const fresh = stale.flatMap(({ talk, version }) => {
    const card = cards.get(talk)
    return card === undefined ? [] : [{ talk, version, card, waits: STEPS.indexOf(stepNeeded(card)) }]
  })
  // One that changed meanwhile keeps what it had, unless it had nothing, and is made anew when somebody looks again.
  await sql`
    update talk_card set card = fresh.card, waits = fresh.waits, made = fresh.version
    from jsonb_to_recordset(${JSON.stringify(fresh)}::jsonb) as fresh(talk uuid, version bigint, card jsonb, waits smallint)
    where talk_card.talk = fresh.talk and (talk_card.version = fresh.version or talk_card.made is null)`.execute(q)
  return stale.length
}

const found = (q: Queries, owner: string, words: string) =>
  q
    .selectFrom('talk_card')
    .where('owner', '=', owner)
    .where((is) =>
      is.and(
        words
          .split(/\s+/)
          .filter((word) => word !== '')
          .map((word) => is('name', 'ilike', likely(word))),
      ),
    )

/** Cards of a person's talks that are looked for, in an order. */
export async function talkCards(q: Queries, owner: string, { words, order, from, most }: TalkWish): Promise<readonly TalkCard[]> {
  while ((await renewCards(q, owner)) === MANY);
  const rows = await found(q, owner, words)
    .select(['talk', 'name', 'changed', 'demo', 'card'])
    .$if(order === 'waiting', (all) => all.orderBy('waits').orderBy('changed', 'desc'))
    .$if(order === 'changed', (all) => all.orderBy('changed', 'desc'))
    .$if(order === 'name', (all) => all.orderBy(sql`name collate people_order`))
    .orderBy('talk')
    .offset(from)
    .limit(most)
    .execute()
  return rows.flatMap(({ talk, name, changed, demo, card }) =>
    card === null ? [] : [{ id: talk, name, changed: changed.toISOString(), demo, ...card }],
  )
}

/** How many talks a person has, and how many of those that are looked for. */
export async function talkCount(q: Queries, owner: string, words: string): Promise<TalkCount> {
  const [all, some] = await Promise.all([
    found(q, owner, '')
      .select((build) => [
        build.fn.countAll<number>().as('count'),
        build.fn.countAll<number>().filterWhere('demo', '=', true).as('examples'),
      ])
      .executeTakeFirstOrThrow(),
    found(q, owner, words)
      .select((build) => build.fn.countAll<number>().as('count'))
      .executeTakeFirstOrThrow(),
  ])
  return { all: Number(all.count), found: Number(some.count), examples: Number(all.examples) === Number(all.count) }
}
