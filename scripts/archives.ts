import { copyFile, mkdir } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { onData } from './start/on-data'

/**
 * Writes archives of all talks into a folder: npm run archives -- --to FOLDER, of one person with --person ADDRESS. A product that runs on
 * the data folder does the work; else it is done here.
 */
const { values } = parseArgs({ options: { data: { type: 'string' }, to: { type: 'string' }, person: { type: 'string' } } })
const command = await onData(values.data)
/** Ends with what is to be said. */
const end: (code: number, sentence: string) => never = command.end
if (values.to === undefined) end(1, 'Name a folder with --to.')
const to = resolve(values.to)

const { database } = await import('@server/database')
const { accountArchives, finishedArchives, orderAccountArchives } = await import('@server/domain')
const db = database()
const everybody = await db.selectFrom('person').select(['id', 'name', 'email']).execute()
const people = everybody.filter(({ email }) => values.person === undefined || email === values.person.toLowerCase())
if (people.length === 0) end(1, `There is nobody with the address ${values.person ?? ''} here.`)

/** Makes what waits, one after the other, where no product does. */
async function makeHere(): Promise<void> {
  const { alone } = await import('@server/worker/claims')
  const { makeExportTask } = await import('@server/worker/exports')
  const waiting = await db.selectFrom('talk_export').select('id').where('kind', '=', 'archive').where('state', '=', 'queued').execute()
  for (const { id } of waiting) await alone('make-export', id, makeExportTask)
}

let [written, failed] = [0, 0]
for (const { id, name } of people) {
  await db.transaction().execute((q) => orderAccountArchives(q, id))
  if (!command.isRunning) await makeHere()
  for (;;) {
    const coming = (await accountArchives(db, id)).filter(({ made }) => made?.state === 'queued' || made?.state === 'making')
    if (coming.length === 0) break
    if (process.stdout.isTTY) process.stdout.write(`\r${name}: ${String(coming.length)} to come …   `)
    await new Promise((then) => {
      setTimeout(then, 500)
    })
  }
  for (const { name: talk, made } of await accountArchives(db, id))
    if (made?.state === 'failed') {
      failed += 1
      console.error(`${talk}: ${made.sentence ?? 'could not be made'}`)
    }
  const folder = people.length === 1 ? to : join(to, id)
  const files = await finishedArchives(db, id)
  if (files.length > 0) await mkdir(folder, { recursive: true })
  for (const file of files) await copyFile(file.path, join(folder, file.name))
  written += files.length
}
end(failed === 0 ? 0 : 1, `${String(written)} archives are in ${to}.`)
