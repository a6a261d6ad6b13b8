import { spawn } from 'node:child_process'
import { resolve } from 'node:path'
import { besideProduct } from './start/beside'
import { PROGRAMS_FOLDER, bundle, bundleApart, programFile } from './start/programs'

/** Starts one more worker beside a product that runs: on the same data folder, with its private database unless another is named. */
const { data, databaseUrl } = besideProduct()
bundle('worker')
bundleApart()
const worker = spawn('sh', ['scripts/sparing.sh', process.execPath, programFile('worker')], {
  stdio: 'inherit',
  env: {
    ...process.env,
    AISLE_DATA: data,
    DATABASE_URL: databaseUrl,
    AISLE_PROGRAMS: process.env['AISLE_PROGRAMS'] ?? resolve(PROGRAMS_FOLDER),
  },
})
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    worker.kill(signal)
  })
worker.once('exit', (code) => {
  process.exit(code ?? 1)
})
