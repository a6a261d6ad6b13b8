import { resolve } from 'node:path'
import { runningCluster } from './postgres'

/**
 * The data folder and the database of the product that runs here, for what works beside it; those that the environment names, else the
 * usual ones. Ends the process in words when it does not run.
 */
export function besideProduct(): { readonly data: string; readonly databaseUrl: string } {
  const data = resolve(process.env['AISLE_DATA'] ?? '.data')
  const databaseUrl = process.env['DATABASE_URL'] ?? runningCluster(data)
  if (databaseUrl !== null) return { data, databaseUrl }
  console.error(`The product does not run on ${data}. Start it first, or say by AISLE_DATA or DATABASE_URL where it does.`)
  process.exit(1)
}
