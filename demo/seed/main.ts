import { existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { database } from '@server/database'
import { localPerson } from '@server/domain'
import { settings } from '@server/settings'
import { claims } from '@server/worker/claims'
import { seedTalk } from './seed-talk'

/** Puts the demo talks in, once in the life of a data folder. */
const marker = join(settings().data, 'demo-seeded')
if (settings().accounts === 'off' && !existsSync(marker)) {
  console.log('Putting in the demo talks …')
  const person = await localPerson(database())
  await seedTalk(person.id, 'demo/talks/swifts')
  await seedTalk(person.id, 'demo/talks/twelfths')
  writeFileSync(marker, new Date().toISOString())
}
// The database waits for every connection, and claims keep one.
await claims().close()
await database().destroy()
