import { spawnSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { Client } from '../harness/client'
import { withoutBrowser } from '../faults/stand'
import { allInputs } from './all-inputs'
import { BOUNDS, MOST_HELD } from './bounds'
import { Victim } from './feed'
import type { HostileInput } from './input'
import { watchMemory } from './held-memory'

/**
 * Feeds bad inputs through the real routes of the built product, several at a time: npm run hostile -- [how many]. For each: no crash,
 * an end within its limit, a sentence when it is refused, and the talk as it was. Ends with a line that counts them.
 */
const COUNT = Number(process.argv[2] ?? 1000)
/** At once, and inputs for one talk. */
const LANES = 3
const FOR_ONE_TALK = 25
const RESULTS = 'bench/results/hostile.json'
const KEPT = '.output/hostile'

const zzuf = spawnSync('zzuf', ['-V'], { stdio: 'ignore' }).error === undefined
const inputs = await allInputs(COUNT, zzuf)
const stand = await withoutBrowser(BOUNDS)
const memory = watchMemory(stand.product.data)
const wrong: { readonly input: string; readonly error: string }[] = []
let [taken, refused, longest] = [0, 0, 0]

async function feedOne(victim: Victim, input: HostileInput, n: number): Promise<boolean> {
  try {
    const fed = await victim.feed(input)
    if (fed.taken) taken += 1
    else refused += 1
    longest = Math.max(longest, fed.took)
    const edited = fed.taken && ['edit', 'programme'].includes(input.door)
    await victim.lookUnharmed(edited)
    return edited
  } catch (error) {
    wrong.push({ input: `${String(n)} ${input.door}: ${input.name}`, error: error instanceof Error ? error.message : String(error) })
    mkdirSync(KEPT, { recursive: true })
    writeFileSync(`${KEPT}/${String(n)}-${input.door}`, input.bytes)
    console.log(`WRONG ${wrong.at(-1)?.input ?? ''}: ${wrong.at(-1)?.error ?? ''}`)
    return true
  }
}

const todo = inputs.entries()
async function lane(): Promise<void> {
  const client = new Client(stand.product.url)
  let victim = await Victim.of(client)
  let fed = 0
  for (const [n, input] of todo) {
    const changed = await feedOne(victim, input, n)
    fed += 1
    if (changed || fed % FOR_ONE_TALK === 0) victim = await Victim.of(client)
    if (n % 50 === 49) console.log(`${String(n + 1)} fed; held ${JSON.stringify(memory.most())}`)
  }
}
await Promise.all(Array.from({ length: LANES }, lane))
memory.end()
const held = memory.most()
for (const kind of ['server', 'worker', 'apart'] as const) {
  if (held[kind] > MOST_HELD[kind])
    wrong.push({ input: 'all of them', error: `${kind} held ${String(held[kind])} MB of at most ${String(MOST_HELD[kind])}` })
}
if (stand.product.ended().length > 0) wrong.push({ input: 'all of them', error: `ended: ${stand.product.ended().join(', ')}` })
await stand.close()
writeFileSync(
  RESULTS,
  `${JSON.stringify(
    {
      at: new Date().toISOString(),
      inputs: inputs.length,
      zzuf,
      taken,
      refused,
      longestMs: longest,
      heldMb: held,
      mostHeldMb: MOST_HELD,
      wrong,
    },
    null,
    2,
  )}\n`,
)
for (const { input, error } of wrong) console.log(`WRONG ${input}: ${error}`)
console.log(
  `\n${String(inputs.length)} fed, ${String(taken)} taken, ${String(refused)} refused; held at most ${JSON.stringify(held)} MB; ` +
    `the longest took ${String(longest)} ms`,
)
console.log(`${String(inputs.length - wrong.length)} passed, ${String(wrong.length)} failed`)
process.exit(wrong.length === 0 ? 0 : 1)
