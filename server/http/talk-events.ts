import pg from 'pg'
import type { TalkEvent } from '@contracts'
import { CHANNEL } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'

type Hearer = (event: TalkEvent) => void

const hearers = new Map<string, Set<Hearer>>()
let listening = false
/** Wait before a lost connection is made again, in ms. */
const AGAIN = 1000

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
    const event = JSON.parse(message.payload ?? '{}') as Partial<TalkEvent>
    if (typeof event.talk !== 'string' || event.kind === undefined) return
    for (const hear of hearers.get(event.talk) ?? []) hear({ talk: event.talk, kind: event.kind, id: event.id ?? null })
  })
  try {
    await client.connect()
    await client.query(`listen ${CHANNEL}`)
  } catch (error) {
    log.warn({ error: String(error) }, 'cannot listen for changes; trying again')
    again()
  }
}

/** Hears what changes in a talk, until the function that is returned is called. */
export function hearTalk(talk: string, hear: Hearer): () => void {
  if (!listening) {
    listening = true
    void listen()
  }
  const own = hearers.get(talk) ?? new Set()
  hearers.set(talk, own.add(hear))
  return () => {
    own.delete(hear)
    if (own.size === 0) hearers.delete(talk)
  }
}
