import { mkdirSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { PROGRAMS_FOLDER } from '../scripts/start/programs'
import type { Figure } from './figure'

const BENCHES: Readonly<Record<string, () => Promise<{ readonly measure: () => Promise<Figure> }>>> = {
  'export-inset': () => import('./export-inset'),
  'export-still': () => import('./export-still'),
  'export-again': () => import('./export-again'),
  'export-memory': () => import('./export-memory'),
  'export-scale': () => import('./export-scale'),
  'export-ready': () => import('./export-ready'),
  estimates: () => import('./estimates'),
  edit: () => import('./edit'),
  motion: () => import('./motion'),
  replay: () => import('./replay'),
  parity: () => import('./parity'),
  drift: () => import('./drift'),
  import: () => import('./import'),
  office: () => import('./office'),
  cover: () => import('./cover'),
  match: () => import('./match'),
  start: () => import('./start'),
  weight: () => import('./weight'),
  'at-once': () => import('./at-once'),
  screening: () => import('./screening'),
  uploads: () => import('./uploads'),
  many: () => import('./many'),
  capacity: () => import('./capacity'),
  upgrade: () => import('./upgrade'),
  ink: () => import('./ink'),
  lips: () => import('./lips'),
  prompter: () => import('./prompter'),
  sync: () => import('./sync'),
  scene: () => import('./scene'),
  algebra: () => import('./algebra'),
  course: () => import('./course'),
  preflight: () => import('./preflight'),
  keys: () => import('./keys'),
  window: () => import('./window'),
  words: () => import('./words'),
  slips: () => import('./slips'),
  'small-form': () => import('./small-form'),
  'tidy-voice': () => import('./tidy-voice'),
  backdrop: () => import('./backdrop'),
  'export-backdrop': () => import('./export-backdrop'),
  'film-visits': () => import('./film-visits'),
}

process.env['AISLE_PROGRAMS'] ??= resolve(PROGRAMS_FOLDER)
const name = process.argv[2] ?? ''
const bench = BENCHES[name]
if (bench === undefined) {
  console.error(`Name one of: ${Object.keys(BENCHES).join(', ')}`)
  process.exit(1)
}
const figure = await (await bench()).measure()
mkdirSync('bench/results', { recursive: true })
writeFileSync(`bench/results/${name}.json`, `${JSON.stringify({ name, at: new Date().toISOString(), ...figure }, null, 2)}\n`)
console.log(`${name} ${String(figure.value)} ${figure.unit} (${figure.target}) ${figure.ok ? 'ok' : 'short'}`)
process.exit(0)
