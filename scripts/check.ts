import { besideProduct } from './start/beside'

/**
 * Reads all that must not be lost, and makes again what can be, beside a product that runs: npm run check. Ends with 1 when something
 * cannot be made.
 */
const { data, databaseUrl } = besideProduct()
process.env['AISLE_DATA'] = data
process.env['DATABASE_URL'] = databaseUrl
process.env['AISLE_LOG'] ??= 'error'
const { checkKept } = await import('@server/worker/tasks/check-kept')
const { read, again, lost } = await checkKept(null)
for (const path of lost) console.error(`lost: ${path}`)
console.log(
  `${String(read)} files were read; ${String(again)} made again or about to be; ${String(lost.length)} missing or damaged ` +
    `that cannot be made.`,
)
process.exit(lost.length === 0 ? 0 : 1)
