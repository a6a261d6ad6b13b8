import { join } from 'node:path'
import { readSettings } from '@server/settings'
import { serveStandIns } from './serve'

/** Runs the stand-ins for outside services beside the product. */
process.umask(0o077)
const { data, standIns } = readSettings(process.env)
if (standIns === null) throw new Error('AISLE_STAND_INS says where the stand-ins run, and is not set')
await serveStandIns({ folder: join(data, 'stand-ins'), port: Number(new URL(standIns).port) })
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    process.exit(0)
  })
