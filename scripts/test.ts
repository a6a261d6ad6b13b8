import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/**
 * Runs every check in order, or with `deep` those that take long, and ends with one line that counts them. Lint and types count as one
 * check each.
 */
const scratch = mkdtempSync(join(tmpdir(), 'aisle-checks-'))
let passed = 0
let failed = 0
let skipped = 0
/** Names of what failed, said again at the end, where they are found without reading everything. */
const failures: string[] = []

/** Runs a check and prints what it said once it is over, so that two at a time can be read. */
async function check(name: string, args: readonly string[]): Promise<void> {
  const child = spawn(process.execPath, [...args], { stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (part: Buffer) => {
      said += part.toString()
    })
  const status = await new Promise<number | null>((resolve) => {
    child.once('close', resolve)
  })
  console.log(`\n── ${name}\n${said}`)
  if (status === 0) passed += 1
  else fail(name)
}

function fail(name: string): void {
  failed += 1
  failures.push(name)
}

interface Report {
  readonly numPassedTests: number
  readonly numFailedTests: number
  readonly numPendingTests: number
  readonly testResults: readonly {
    readonly assertionResults: readonly {
      readonly status: string
      readonly fullName: string
      readonly failureMessages: readonly string[]
    }[]
  }[]
}

/** A failed test's name with the first line of why. */
function failuresIn(project: string, report: Report): readonly string[] {
  return report.testResults
    .flatMap(({ assertionResults }) => assertionResults)
    .filter(({ status }) => status === 'failed')
    .map(({ fullName, failureMessages }) => `${project}: ${fullName}: ${failureMessages[0]?.split('\n')[0] ?? ''}`)
}

async function tests(project: string): Promise<void> {
  console.log(`\n── ${project} tests`)
  const out = join(scratch, `${project}.json`)
  const child = spawn(
    process.execPath,
    ['node_modules/vitest/vitest.mjs', 'run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${out}`],
    { stdio: 'inherit' },
  )
  const status = await new Promise<number | null>((resolve) => {
    child.once('close', resolve)
  })
  try {
    const report = JSON.parse(readFileSync(out, 'utf8')) as Report
    passed += report.numPassedTests
    failed += report.numFailedTests
    skipped += report.numPendingTests
    failures.push(...failuresIn(project, report))
    // A file that could not even be loaded has no failed test to count.
    if (status !== 0 && report.numFailedTests === 0) fail(`${project}: a file that could not be loaded`)
  } catch {
    fail(`${project}: no report`)
  }
}

const deep = process.argv[2] === 'deep'
spawnSync(process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'prepare'], {
  stdio: 'ignore',
  env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' },
})
// Types take one processor for about as long as format and lint take the other; tests take both.
if (!deep) {
  await Promise.all([
    check('types', ['--import', 'tsx', 'scripts/types.ts']),
    check('format', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']).then(() =>
      check('lint', ['node_modules/eslint/bin/eslint.js', '.']),
    ),
  ])
}
for (const project of deep ? ['deep', 'objects', 'alone'] : ['unit', 'server', 'browser']) await tests(project)
rmSync(scratch, { recursive: true, force: true })
if (failures.length > 0) console.log(`\nfailed:\n${failures.map((failure) => `- ${failure}`).join('\n')}`)
console.log(`\n${String(passed)} passed, ${String(failed)} failed${skipped > 0 ? `, ${String(skipped)} skipped` : ''}`)
process.exit(failed === 0 ? 0 : 1)
