import pg from 'pg'
import type { TalkEvent } from '@contracts'
import { CHANNEL, ownerOf } from '@server/domain'
import { database } from '@server/database'
import { log } from '@server/log'
import { settings } from '@server/settings'

type Hearer = (event: TalkEvent) => void

const hearers = new Map<string, Set<Hearer>>()
/** Whose each talk is; that never changes. */
const owners = new Map<string, string | null>()
let listening = false
/** Wait before a lost connection is made again, in ms. */
const AGAIN = 1000

async function pass(told: TalkEvent): Promise<void> {
  if (hearers.size === 0) return
  const owner = owners.get(told.talk) ?? await ownerOf(database(), told.talk)
  owners.set(told.talk, owner)
  if (owner !== null) for (const hear of hearers.get(owner) ?? []) hear(told)
}

async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: settings().databaseUrl })
  const again = (): void => {
    client.removeAllListeners()
    client.on('error', () => undefined)
    void client.end().catch(() => undefined)
    setTimeout(() => { void listen() }, AGAIN)
  }
  client.on('error', again)
  client.on('end', again)
  client.on('notification', (message) => {
    // Written by our own processes; what is not understood is not passed on.
    const told = JSON.parse(message.payload ?? '{}') as Partial<TalkEvent>
    if (typeof told.talk !== 'string' || told.kind === undefined) return
    pass({ talk: told.talk, kind: told.kind, id: told.id ?? null }).catch((error: unknown) => { log.warn({ error: String(error) }, 'a change was not passed on') })
  })
  try {
    await client.connect()
    await client.query(`listen ${CHANNEL}`)
  } catch (error) {
    log.warn({ error: String(error) }, 'cannot listen for changes; trying again')
    again()
  }
}

/** Hears what changes in any talk of a person, until the function that is returned is called. */
export function hearTalksOf(person: string, hear: Hearer): () => void {
  if (!listening) {
    listening = true
    void listen()
  }
  const own = hearers.get(person) ?? new Set()
  hearers.set(person, own.add(hear))
  return () => {
    own.delete(hear)
    if (own.size === 0) hearers.delete(person)
  }
}
