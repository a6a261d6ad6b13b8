import { parseArgs } from 'node:util'
import { besideProduct } from './start/beside'

/**
 * What is done with the place where media are kept, beside a product that runs with the same settings: npm run store -- move takes all
 * media over from where they were kept before (AISLE_STORE_FORMER); npm run store -- adopt has a store be the one of this database.
 */
const { positionals } = parseArgs({ allowPositionals: true, options: {} })
const [command = ''] = positionals
if (positionals.length !== 1 || (command !== 'move' && command !== 'adopt')) {
  console.error('npm run store -- move takes media over from AISLE_STORE_FORMER to AISLE_STORE, while the product runs.')
  console.error('npm run store -- adopt has AISLE_STORE be the store of this database, which knew another.')
  process.exit(1)
}
const { data, databaseUrl } = besideProduct()
process.env['AISLE_DATA'] = data
process.env['DATABASE_URL'] = databaseUrl
process.umask(0o077)
const { takeAllOver } = await import('@server/store')

/** What was done so far, in words. */
const soFar = ({ files, bytes, there }: { readonly files: number; readonly bytes: number; readonly there: number }): string =>
  `${String(files)} files taken over, ${(bytes / 1e6).toFixed(1)} MB; ${String(there)} were there already`

async function move(): Promise<string> {
  const so = await takeAllOver((now) => {
    console.log(`${soFar(now)} …`)
  })
  return `${soFar(so)}. Leave AISLE_STORE_FORMER out at the next start.`
}

async function adopt(): Promise<string> {
  const [{ database }, { adoptStore }] = await Promise.all([import('@server/database'), import('@server/domain')])
  await adoptStore(database())
  return 'This store is the one of this database from now on. Restart servers and workers.'
}

await (command === 'move' ? move() : adopt()).then(
  (sentence) => {
    console.log(sentence)
    process.exit(0)
  },
  (fault: unknown) => {
    console.error(fault instanceof Error ? fault.message : String(fault))
    process.exit(1)
  },
)
