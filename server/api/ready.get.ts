import { setResponseStatus } from 'h3'
import type { Readiness } from '@contracts'
import { database } from '@server/database'
import { isOwnStore, livingWorkers, schemaIsOurs } from '@server/domain'
import { answer } from '@server/http'
import { isWritable } from '@server/store'

const holds = (look: Promise<boolean>): Promise<boolean> => look.catch(() => false)

/**
 * Whether this server can do its work: its database answers and has the schema of this version, its store can be written and is the one
 * that all have, and somebody
 * does what it asks for. A proxy that balances sends people elsewhere while it cannot.
 */
export default answer(async (event): Promise<Readiness> => {
  const q = database()
  const [schema, store, living] = await Promise.all([
    holds(schemaIsOurs(q)),
    holds(isWritable().then((writable) => writable && isOwnStore(q))),
    livingWorkers(q).then(
      (count) => count,
      () => null,
    ),
  ])
  const parts = { database: living !== null, schema, store, workers: (living ?? 0) > 0 }
  const ready = Object.values(parts).every(Boolean)
  if (!ready) setResponseStatus(event, 503)
  return { ready, ...parts }
})
