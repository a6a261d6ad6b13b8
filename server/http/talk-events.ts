import pg from 'pg'
import type { TalkEvent } from '@contracts'
import { CHANNEL, ownerOf } from '@server/domain'
import { database } from '@server/database'
import { log } from '@server/log'
import { settings } from '@server/settings'

/** Who hears of a person's talks. */
export interface TalkHearer {
  readonly told: (event: TalkEvent) => void
  /** From now on everything is heard. What happened before may have been missed: at the beginning, and whenever the line was lost. */
  readonly ready: () => void
}

const hearers = new Map<string, Set<TalkHearer>>()
/** Whose each talk is; forgotten when it is told that a talk was handed over. */
const owners = new Map<string, string | null>()
/** What listening has come to. */
let line: 'none' | 'coming' | 'there' = 'none'
/** Wait before a lost connection is made again, in ms. */
const AGAIN = 1000

async function pass(told: TalkEvent): Promise<void> {
  if (hearers.size === 0) return
  if (told.kind === 'owner') owners.delete(told.talk)
  const owner = owners.get(told.talk) ?? (await ownerOf(database(), told.talk))
  owners.set(told.talk, owner)
  if (owner !== null) for (const hearer of hearers.get(owner) ?? []) hearer.told(told)
}

async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: settings().databaseUrl })
  const again = (): void => {
    line = 'coming'
    client.removeAllListeners()
    client.on('error', () => undefined)
    void client.end().catch(() => undefined)
    setTimeout(() => {
      void listen()
    }, AGAIN)
  }
  client.on('error', again)
  client.on('end', again)
  client.on('notification', (message) => {
    // Written by our own processes; what is not understood is not passed on.
    const told = JSON.parse(message.payload ?? '{}') as Partial<TalkEvent>
    if (typeof told.talk !== 'string' || told.kind === undefined) return
    pass({ talk: told.talk, kind: told.kind, id: told.id ?? null }).catch((error: unknown) => {
      log.warn({ error: String(error) }, 'a change was not passed on')
    })
  })
  try {
    await client.connect()
    await client.query(`listen ${CHANNEL}`)
    line = 'there'
    for (const hearer of [...hearers.values()].flatMap((own) => [...own])) hearer.ready()
  } catch (error) {
    log.warn({ error: String(error) }, 'cannot listen for changes; trying again')
    again()
  }
}

/** Hears what changes in any talk of a person, until the function that is returned is called. */
export function hearTalksOf(person: string, hearer: TalkHearer): () => void {
  const own = hearers.get(person) ?? new Set()
  hearers.set(person, own.add(hearer))
  if (line === 'there') hearer.ready()
  else if (line === 'none') {
    line = 'coming'
    void listen()
  }
  return () => {
    own.delete(hearer)
    if (own.size === 0) hearers.delete(person)
  }
}
