import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'

/** Checks all types: the computation without browser or Node, what runs in Node, the server's routes, the pages. */
const npx = (...args: readonly string[]): boolean => spawnSync(process.execPath, [...args], { stdio: 'inherit' }).status === 0

if (!existsSync('.nuxt/tsconfig.app.json')) npx('node_modules/nuxt/bin/nuxt.mjs', 'prepare')
const checks: readonly (readonly string[])[] = [
  ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'core'],
  ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'tsconfig.node.json'],
  ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'tests/stand-in'],
  ['node_modules/typescript/bin/tsc', '--noEmit', '-p', '.nuxt/tsconfig.server.json'],
  ['node_modules/vue-tsc/bin/vue-tsc.js', '--noEmit', '-p', '.nuxt/tsconfig.app.json'],
]
const bad = checks.filter((check) => !npx(...check))
process.exit(bad.length === 0 ? 0 : 1)
