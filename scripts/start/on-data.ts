import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { startCluster } from './postgres'
import { PROGRAMS_FOLDER } from './programs'

/** In the data folder: under which address people reached the server that was started on it last. */
export const ADDRESS_FILE = 'public-address'

/** A data folder that a command works on. */
export interface OnData {
  /** Whether a product runs on it: then that does the work. */
  readonly isRunning: boolean
  /** Ends the command with what is to be said. */
  readonly end: (code: number, sentence: string) => never
}

/**
 * Has a command work on a data folder: its database is started unless it runs, and both are set as this process's own.
 * @param folder as it was asked for; left out: the one of the environment, or the usual one
 */
export async function onData(folder: string | undefined): Promise<OnData> {
  const data = resolve(folder ?? process.env['AISLE_DATA'] ?? '.data')
  const external = process.env['DATABASE_URL']
  const cluster = external === undefined ? await startCluster(data) : { url: external, ran: true, stop: () => undefined }
  process.env['AISLE_DATA'] = data
  process.env['DATABASE_URL'] = cluster.url
  process.env['AISLE_LOG'] ??= 'error'
  const known = join(data, ADDRESS_FILE)
  if (existsSync(known)) process.env['AISLE_PUBLIC_ADDRESS'] ??= readFileSync(known, 'utf8')
  process.env['AISLE_PROGRAMS'] ??= resolve(PROGRAMS_FOLDER)
  return {
    isRunning: cluster.ran,
    end: (code, sentence) => {
      ;(code === 0 ? console.log : console.error)(sentence)
      cluster.stop()
      process.exit(code)
    },
  }
}
