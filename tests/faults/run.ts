import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { cutShort, sentTwiceAndShuffled } from './chunks'
import { diskFullInExport, workerKilled } from './export-kills'
import { browserKilled, pageKilled, pageKilledBusy } from './kills'
import { deckRefusedLate, discardedWhileFinishing, powerCut, secondMachine, workerTakenForDead } from './loss'
import { asleep, cameraPulled, clockSetBack, diskFull, micPulled, rateChanged } from './machine'
import type { Row } from './row'
import { databaseRestarted, networkPoor, serverAway, serverKilled } from './server-away'

/** Faults done on purpose to the built product. Prints a row for each, and ends with a line that counts them. */
const FAULTS: Readonly<Record<string, () => Promise<Row>>> = {
  page: () => pageKilled(20),
  'page-busy': () => pageKilledBusy(10),
  browser: () => browserKilled(3),
  server: serverKilled,
  away: serverAway,
  network: networkPoor,
  database: databaseRestarted,
  disk: diskFull,
  twice: sentTwiceAndShuffled,
  cut: cutShort,
  clock: clockSetBack,
  sleep: asleep,
  camera: cameraPulled,
  mic: micPulled,
  rate: rateChanged,
  export: () => workerKilled(10),
  'export-disk': diskFullInExport,
  power: () => powerCut(50),
  taken: () => workerTakenForDead(10),
  discard: () => discardedWhileFinishing(10),
  refused: deckRefusedLate,
  second: secondMachine,
}

const RESULTS = 'bench/results/faults.json'
type Results = Readonly<Record<string, Row & { readonly at: string }>>
const known = (): Results => (existsSync(RESULTS) ? (JSON.parse(readFileSync(RESULTS, 'utf8')) as Results) : {})

const wanted = process.argv.slice(2)
let passed = 0
let failed = 0
for (const [name, fault] of Object.entries(FAULTS)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  try {
    const row = await fault()
    const ok = row.lost <= row.most
    if (ok) passed += 1
    else failed += 1
    console.log(
      `${ok ? 'ok   ' : 'SHORT'} ${row.fault}${row.note === undefined ? '' : ` (${row.note})`}: lost ${String(row.lost)} ms of ` +
        `at most ${String(row.most)}\n      told: ${row.told === '' ? 'nothing' : row.told}`,
    )
    mkdirSync('bench/results', { recursive: true })
    writeFileSync(RESULTS, `${JSON.stringify({ ...known(), [name]: { ...row, at: new Date().toISOString() } }, null, 2)}\n`)
  } catch (error) {
    failed += 1
    console.log(`FAILED ${name}: ${error instanceof Error ? error.message : String(error)}`)
  }
}
console.log(`\n${String(passed)} passed, ${String(failed)} failed`)
process.exit(failed === 0 ? 0 : 1)
