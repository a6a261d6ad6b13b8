import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { readArguments } from './start/arguments'
import { ensureBuilt } from './start/build'
import { Children } from './start/children'
import { ADDRESS_FILE } from './start/on-data'
import { startCluster, stopCluster } from './start/postgres'
import { PROGRAMS_FOLDER, programFile } from './start/programs'
import { sessionSecret } from './start/session-secret'
import { inAddress, readSettings } from '../server/settings'

/** Starts the product: database, server, worker. Everything that is there already is left as it is. */
const began = Date.now()
const args = readArguments(process.argv.slice(2))
const data = resolve(args.data ?? process.env['AISLE_DATA'] ?? '.data')
const port = args.port ?? process.env['AISLE_PORT'] ?? '4310'

async function startOver(): Promise<void> {
  if (!existsSync(data)) return
  if (!args.yes) {
    const ask = createInterface({ input: process.stdin, output: process.stdout })
    const answer = await ask.question(`This erases every talk, recording and file in ${data}. Type "erase" to go on: `)
    ask.close()
    if (answer.trim() !== 'erase') {
      console.log('Nothing was erased.')
      process.exit(1)
    }
  }
  const cluster = stopCluster(data)
  rmSync(cluster, { recursive: true, force: true })
  rmSync(data, { recursive: true, force: true })
}

if (args.fresh) await startOver()
mkdirSync(data, { recursive: true })

const external = process.env['DATABASE_URL']
const cluster =
  external === undefined ? await startCluster(data) : { url: external, ran: true, stop: () => undefined, restart: () => undefined }
const children = new Children()
const host = process.env['AISLE_HOST'] ?? '127.0.0.1'

/** Where this machine itself reaches the server; one that listens everywhere it reaches at home. */
const here = ['0.0.0.0', '::'].includes(host) ? '127.0.0.1' : inAddress(host)
let stopping = false
const stop = (code: number): void => {
  if (stopping) return
  stopping = true
  void children.stop().finally(() => {
    cluster.stop()
    process.exit(code)
  })
}
process.on('SIGINT', () => {
  stop(0)
})
process.on('SIGTERM', () => {
  stop(0)
})

const env: NodeJS.ProcessEnv = {
  ...process.env,
  AISLE_DATA: data,
  AISLE_PORT: port,
  DATABASE_URL: cluster.url,
  NUXT_SESSION_PASSWORD: process.env['NUXT_SESSION_PASSWORD'] ?? sessionSecret(data),
  NITRO_PORT: port,
  NITRO_HOST: host,
  PORT: port,
  AISLE_STAND_INS: process.env['AISLE_STAND_INS'] ?? `http://127.0.0.1:${String(Number(port) + 1)}`,
  ...(args.dev ? {} : { AISLE_PROGRAMS: resolve(PROGRAMS_FOLDER) }),
}

function step(script: string): void {
  const ended = spawnSync(process.execPath, ['--import', 'tsx', script], { env, stdio: 'inherit' })
  if (ended.status !== 0) throw new Error(`${script} failed`)
}

// For all that is started from here on (the database runs as somebody else): recordings and keys are nobody's else on this machine.
process.umask(0o077)
try {
  const { publicAddress, standIns } = readSettings(env)
  writeFileSync(join(data, ADDRESS_FILE), publicAddress)
  step('scripts/migrate.ts')
  if (!args.dev) ensureBuilt()
  step('demo/seed/main.ts')
  if (args.dev)
    children.keep('server', process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'dev', '--port', port, '--host', '127.0.0.1'], env)
  else children.keep('server', process.execPath, ['.output/server/index.mjs'], env)
  children.keep(
    'worker',
    // Whoever records goes first, unless nobody is to.
    'nice',
    [
      '-n',
      process.env['AISLE_YIELD'] === 'off' ? '0' : '10',
      'sh',
      'scripts/sparing.sh',
      process.execPath,
      ...(args.dev ? ['--import', 'tsx', 'server/worker/main.ts'] : [programFile('worker')]),
    ],
    env,
  )
  if (standIns !== null) {
    const program = args.dev ? ['--import', 'tsx', 'stand-ins/main.ts'] : [programFile('stand-ins')]
    children.keep('stand-ins', process.execPath, program, env)
  }
  await untilUp(`http://${here}:${port}/api/health`)
  console.log(`\n  Aisle Talk is open at ${publicAddress}   (${((Date.now() - began) / 1000).toFixed(1)} s; Ctrl-C stops it)\n`)
} catch (error) {
  console.error(error instanceof Error ? error.message : error)
  stop(1)
}

async function untilUp(url: string): Promise<void> {
  for (let n = 0; n < 600 && !stopping; n += 1) {
    const up = await fetch(url).then(
      (answer) => answer.ok,
      () => false,
    )
    if (up) return
    await new Promise((resolve) => {
      setTimeout(resolve, 100)
    })
  }
  throw new Error(`The server did not answer on port ${port}. Is the port in use? Choose another with --port.`)
}
