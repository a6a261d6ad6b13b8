import { copyFile } from 'node:fs/promises'
import { parseArgs } from 'node:util'
import { Refusal } from '@core/model'
import type { Recipe } from '@core/model'
import * as schemas from '@contracts/schemas'
import { onData } from './start/on-data'

/**
 * Makes a file of a talk from the command line, for evenings and scripts: npm run deliver -- --talk NAME --lines 720 --hold --out FILE.
 * A product that runs on the data folder does the work; else it is done here. Without --hold the file is as long as the talk is.
 */
const { values } = parseArgs({
  options: {
    data: { type: 'string' },
    talk: { type: 'string' },
    lines: { type: 'string' },
    rate: { type: 'string' },
    quality: { type: 'string' },
    hold: { type: 'boolean', default: false },
    out: { type: 'string' },
  },
})
const command = await onData(values.data)
/** Ends with what is to be said. */
const end: (code: number, sentence: string) => never = command.end

const { database } = await import('@server/database')
const { orderDelivery } = await import('@server/domain')
const { deliveryPath, here } = await import('@server/store')
const db = database()
const talks = await db.selectFrom('talk').select(['id', 'name', 'recipe', 'limit_ms']).where('deleted', 'is', null).execute()
const talk = talks.find((one) => one.id === values.talk || one.name === values.talk)
if (talk === undefined || values.out === undefined)
  end(1, `Name a talk with --talk and a file with --out. The talks here: ${talks.map((one) => one.name).join(', ') || 'none'}.`)
if (values.hold && talk.limit_ms === null) end(1, 'This talk has no limit to hold. Set one in Prepare.')
const wanted = schemas.recipe.validate({
  ...talk.recipe,
  ...(values.lines === undefined ? {} : { lines: Number(values.lines) }),
  ...(values.rate === undefined ? {} : { rate: Number(values.rate) }),
  ...(values.quality === undefined ? {} : { quality: values.quality }),
  limit: values.hold ? { kind: 'hold', limit: talk.limit_ms } : { kind: 'none' },
}) as { readonly value: Recipe; readonly error?: Error }
if (wanted.error !== undefined) end(1, `This cannot be made: ${wanted.error.message}.`)

const BAR = 30
const [id = ''] = await db
  .transaction()
  .execute((q) => orderDelivery(q, talk.id, wanted.value))
  .catch((fault: unknown) => end(1, fault instanceof Refusal ? fault.message : String(fault)))
if (!command.isRunning) {
  const { alone } = await import('@server/worker/claims')
  const { deliverTask } = await import('@server/worker/tasks/deliver')
  alone('deliver', id, deliverTask).catch((fault: unknown) => end(1, `Making this file failed: ${String(fault)}`))
}
for (;;) {
  const row = await db
    .selectFrom('delivery')
    .select(['state', 'frames_done', 'frames_total', 'time_left_ms', 'sentence', 'file'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow()
  const share = row.frames_total === 0 ? 0 : row.frames_done / row.frames_total
  const left = row.time_left_ms === null ? '' : `, ${String(Math.ceil(row.time_left_ms / 1000))} s left`
  if (process.stdout.isTTY)
    process.stdout.write(
      `\r[${'#'.repeat(Math.round(share * BAR)).padEnd(BAR, '.')}] ${String(Math.round(share * 100)).padStart(3)}%${left}          `,
    )
  if (row.state === 'failed' || row.state === 'cancelled') end(1, row.sentence ?? 'The file was not made.')
  if (row.state === 'done') {
    await copyFile(await here(deliveryPath(id)), values.out)
    end(0, `${values.out} is there, and in the ledger as ${row.file}.`)
  }
  await new Promise((then) => {
    setTimeout(then, 500)
  })
}
