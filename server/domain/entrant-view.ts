import { Refusal } from '@core/model'
import type { EntrantView } from '@contracts'
import type { Queries } from '@server/database'
import { ownAddress } from './entrant-links'
import type { KnownPart } from './entrant-links'
import { entryView, partOfTalk, takingFor } from './entries'
import { tell } from './events'
import { databaseNow, renewPartLink, takeCallRules } from './parts'
import { publicName } from './people'

/** A talk's part in a call, for whom it is. @throws Refusal `not-found` when it is made for none */
export async function entrantView(q: Queries, talk: string): Promise<EntrantView> {
  const part = await partOfTalk(q, talk)
  const { call, entrant, entries } = part
  const [now, organiser] = await Promise.all([databaseNow(q), publicName(q, call.owner)])
  const taking = takingFor(part, now)
  return {
    title: call.title,
    asks: call.asks,
    organiser,
    until: call.until.toISOString(),
    late: call.late,
    faulty: call.faulty,
    name: entrant.name,
    address: entrant.address,
    link: call.accounts ? null : ownAddress(call.key, { entrant: entrant.id, number: entrant.link_number }),
    newRules: entrant.rules_version < call.rules_version ? call.rules : null,
    entries: entries.map(entryView),
    closed: taking.kind === 'refused' ? taking.sentence : null,
    wouldBeLate: now > call.until.getTime(),
  }
}

/** @param at ms since 1970 @throws Refusal `conflict` when nothing of a talk is taken at a moment */
export async function refuseUntaken(q: Queries, talk: string, at: number): Promise<void> {
  const taking = takingFor(await partOfTalk(q, talk), at)
  if (taking.kind === 'refused') throw new Refusal('conflict', taking.sentence)
}

/** Has a talk held to the rules of its call as they are now. In one transaction. */
export async function takeNewRules(q: Queries, talk: string): Promise<void> {
  const { call, entrant } = await partOfTalk(q, talk)
  await takeCallRules(q, call, talk)
  await q.updateTable('entrant').set({ rules_version: call.rules_version }).where('id', '=', entrant.id).execute()
  await tell(q, { talk, kind: 'entry', id: null })
}

/** Gives the owner of a talk another link. @throws Refusal `not-found` when it is made for no call */
export async function renewOwnLink(q: Queries, talk: string): Promise<KnownPart> {
  const { entrant } = await partOfTalk(q, talk)
  return await renewPartLink(q, entrant.id)
}
