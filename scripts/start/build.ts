import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { APART, WATCH_PAGE, bundle, bundleWatchPage, programFile } from './programs'

/** Everything the built server is made of. */
const SOURCES = [
  'app',
  'contracts',
  'core',
  'render',
  'server',
  'stand-ins',
  'scripts/start',
  'nuxt.config.ts',
  'package-lock.json',
  'public',
]
const STAMP = '.output/built-from'

function* filesIn(path: string): Generator<string> {
  if (!existsSync(path)) return
  if (statSync(path).isFile()) {
    // Tests lie beside what they test, and are not built.
    if (!path.endsWith('.test.ts')) yield path
    return
  }
  for (const name of readdirSync(path).sort()) yield* filesIn(join(path, name))
}

function sourcesDigest(): string {
  const hash = createHash('sha256')
  for (const source of SOURCES) for (const file of filesIn(source)) hash.update(file).update(readFileSync(file))
  return hash.digest('hex')
}

/** What is bundled besides the server. */
const PROGRAMS = ['worker', 'stand-ins', ...APART] as const

/** Builds the server and the programs beside it unless they were built from exactly these sources. @throws Error when the build fails */
export function ensureBuilt(): void {
  const digest = sourcesDigest()
  if (
    existsSync(STAMP) &&
    readFileSync(STAMP, 'utf8') === digest &&
    ['.output/server/index.mjs', ...PROGRAMS.map(programFile), ...WATCH_PAGE].every((file) => existsSync(file))
  )
    return
  console.log('Building …')
  const ended = spawnSync(process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'build'], {
    encoding: 'utf8',
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' },
  })
  if (ended.status !== 0) throw new Error(`The build failed:\n${ended.stdout}\n${ended.stderr}`)
  PROGRAMS.forEach(bundle)
  bundleWatchPage()
  writeFileSync(STAMP, digest)
}
