import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuilt } from '../scripts/start/build'
import { until } from '../tests/harness/run-product'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { lengthened } from './lengthened'
import type { Figure } from './figure'

const EVERY = 100
const MEGABYTE = 1_048_576
const MOST = 600

interface Held {
  readonly pid: number
  readonly parent: number
  readonly bytes: number
  readonly name: string
}

/**
 * All processes with what they hold (proc(5): stat; smaps_rollup, Pss: what several hold together, as libraries and the database's
 * buffers, is counted once).
 */
function processes(): readonly Held[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const [, name = '', rest = ''] = /\((.*)\) \S (.*)/s.exec(readFileSync(`/proc/${pid}/stat`, 'utf8')) ?? []
        const bytes = Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0) * 1024
        return [{ pid: Number(pid), parent: Number(rest.split(' ')[0]), name, bytes }]
      } catch {
        return []
      }
    })
}

/** What some processes and all that they started hold, in bytes, each by its name and id. */
function heldBy(roots: readonly number[]): ReadonlyMap<string, number> {
  const all = processes()
  const ours = new Set(roots)
  for (let grown = true; grown;) {
    grown = false
    for (const { pid, parent } of all) {
      if (ours.has(pid) || !ours.has(parent)) continue
      ours.add(pid)
      grown = true
    }
  }
  const byName = new Map<string, number>()
  for (const { pid, name, bytes } of all) if (ours.has(pid)) byName.set(`${name} ${String(pid)}`, bytes)
  return byName
}

const sum = (held: ReadonlyMap<string, number>): number => [...held.values()].reduce((all, bytes) => all + bytes, 0)
const megabytes = (bytes: number): number => Math.round(bytes / MEGABYTE)

interface Peak {
  readonly all: number
  readonly byName: Readonly<Record<string, number>>
}

/**
 * Makes a file and looks at what all processes hold meanwhile.
 * @param roots processes that are counted with all that they started
 * @returns the most, in MB, and who held it then
 */
async function peakOf(roots: readonly number[], work: () => Promise<unknown>): Promise<Peak> {
  let peak: ReadonlyMap<string, number> = new Map()
  const timer = setInterval(() => {
    const now = heldBy(roots)
    if (sum(now) > sum(peak)) peak = now
  }, EVERY)
  await work()
  clearInterval(timer)
  return { all: megabytes(sum(peak)), byName: Object.fromEntries([...peak].map(([name, bytes]) => [name, megabytes(bytes)])) }
}

/** Starts the product's server beside the worker, which is this process. @returns it, once it answers */
async function startServer(): Promise<ChildProcess> {
  const port = '4394'
  const child = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      AISLE_PORT: port,
      NITRO_PORT: port,
      PORT: port,
      NITRO_HOST: '127.0.0.1',
      NUXT_SESSION_PASSWORD: randomBytes(32).toString('hex'),
    },
    stdio: 'ignore',
  })
  await until('the server to answer', () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    ),
  )
  return child
}

/**
 * The most memory that server, database, worker and encoders hold while a talk of thirty minutes is made into 1080 lines, against one
 * of ten; the face is in the two minutes.
 */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const end = await demoProduct()
  const server = await startServer()
  try {
    const talk = await demoTalk()
    // Another user's: only who may look at all processes sees what the database holds.
    const database = Number(readFileSync(join(process.env['AISLE_DATA'] ?? '', 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0])
    const roots = [process.pid, database]
    await forgetParts()
    const peaks: Record<string, Peak> = { twoMinutesWithFace: await peakOf(roots, () => deliverNow(talk, {})) }
    const without = { face: true, ink: false, voice: false }
    for (const [name, times] of [
      ['tenMinutes', 5],
      ['thirtyMinutes', 3],
    ] as const) {
      await lengthened(talk, times)
      await forgetParts()
      peaks[name] = await peakOf(roots, () => deliverNow(talk, { without }))
    }
    const value = Math.max(...Object.values(peaks).map(({ all }) => all))
    const flat = (peaks['thirtyMinutes']?.all ?? 0) < (peaks['tenMinutes']?.all ?? 0) * 1.2
    return {
      value,
      unit: 'MB',
      target: `${String(MOST)} or less with server and database, flat in length`,
      ok: value <= MOST && flat,
      detail: { peaksMb: peaks },
    }
  } finally {
    server.kill('SIGTERM')
    end()
  }
}
