import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { buildSync } from 'esbuild'

/** Everything the built server is made of. */
const SOURCES = ['app', 'contracts', 'core', 'render', 'server', 'nuxt.config.ts', 'package-lock.json', 'public']
const STAMP = '.output/built-from'
/** The deck reader in one file: it is started for every deck, and starts in a fifth of the time. */
export const READER = '.output/bin/read-deck.mjs'

function* filesIn(path: string): Generator<string> {
  if (!existsSync(path)) return
  if (statSync(path).isFile()) {
    yield path
    return
  }
  for (const name of readdirSync(path).sort()) yield* filesIn(join(path, name))
}

function sourcesDigest(): string {
  const hash = createHash('sha256')
  for (const source of SOURCES) for (const file of filesIn(source)) hash.update(file).update(readFileSync(file))
  return hash.digest('hex')
}

/** Builds server and deck reader unless they were built from exactly these sources. @throws Error when the build fails */
export function ensureBuilt(): void {
  const digest = sourcesDigest()
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest && existsSync('.output/server/index.mjs') && existsSync(READER)) return
  console.log('Building …')
  const ended = spawnSync(process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'build'], { encoding: 'utf8', env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' } })
  if (ended.status !== 0) throw new Error(`The build failed:\n${ended.stdout}\n${ended.stderr}`)
  buildSync({ entryPoints: ['render/bin/read-deck.ts'], outfile: READER, bundle: true, platform: 'node', format: 'esm', packages: 'external', tsconfig: 'tsconfig.node.json', logLevel: 'error' })
  writeFileSync(STAMP, digest)
}
