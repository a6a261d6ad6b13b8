import { parseArgs } from 'node:util'
import { besideProduct } from './start/beside'

/**
 * Reads all that must not be lost, beside a product that runs: npm run verify. With --repair what can be made again is. Ends with 1 when
 * something is missing or damaged that was not made again.
 */
const { values } = parseArgs({ options: { repair: { type: 'boolean', default: false } } })
const { data, databaseUrl } = besideProduct()
process.env['AISLE_DATA'] = data
process.env['DATABASE_URL'] = databaseUrl
process.env['AISLE_LOG'] ??= 'error'
const { checkKept } = await import('@server/worker/tasks/check-kept')
const { read, again, damaged, lost } = await checkKept(null, values.repair)
for (const path of damaged) console.error(`can be made again: ${path}`)
for (const path of lost) console.error(`lost: ${path}`)
console.log(
  `${String(read)} files were read; ${String(again)} made again or about to be; ` +
    (damaged.length === 0 ? '' : `${String(damaged.length)} can be made again with --repair; `) +
    `${String(lost.length)} missing or damaged that cannot be made.`,
)
process.exit(lost.length + damaged.length === 0 ? 0 : 1)
