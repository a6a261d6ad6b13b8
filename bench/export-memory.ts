import { readFileSync, readdirSync } from 'node:fs'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { lengthened } from './lengthened'
import type { Figure } from './run'

const EVERY = 100
const MEGABYTE = 1_048_576

interface Held { readonly pid: number, readonly parent: number, readonly bytes: number, readonly name: string }

/** All processes with what they hold (proc(5): stat; smaps_rollup, Pss: what several hold together, as libraries, is counted once). */
function processes(): readonly Held[] {
  return readdirSync('/proc').filter((name) => /^\d+$/.test(name)).flatMap((pid) => {
    try {
      const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
      const [, name = '', rest = ''] = /\((.*)\) \S (.*)/s.exec(stat) ?? []
      // The database server is not looked at.
      const rollup = name === 'postgres' ? '' : readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8')
      return [{ pid: Number(pid), parent: Number(rest.split(' ')[0]), name, bytes: Number(/^Pss:\s+(\d+)/m.exec(rollup)?.[1] ?? 0) * 1024 }]
    } catch {
      return []
    }
  })
}

/** What this process and all that it started hold, in bytes; the database server apart. */
function heldByAll(): number {
  const all = processes()
  const ours = new Set([process.pid])
  for (let grown = true; grown;) {
    grown = false
    for (const { pid, parent } of all) {
      if (ours.has(pid) || !ours.has(parent)) continue
      ours.add(pid)
      grown = true
    }
  }
  return all.filter(({ pid }) => ours.has(pid)).reduce((sum, { bytes }) => sum + bytes, 0)
}

/** Makes a file and looks at what all processes hold meanwhile. @returns the most, in MB */
async function peakOf(work: () => Promise<unknown>): Promise<number> {
  let peak = 0
  const timer = setInterval(() => { peak = Math.max(peak, heldByAll()) }, EVERY)
  await work()
  clearInterval(timer)
  return Math.round(peak / MEGABYTE)
}

/** The most memory that the worker and its encoders hold while a talk of thirty minutes is made into 1080 lines, against one of ten; the face is in the two minutes. */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    await forgetParts()
    const faced = await peakOf(() => deliverNow(talk, {}))
    const without = { face: true, ink: false, voice: false }
    const peaks: Record<string, number> = {}
    for (const [name, times] of [['ten', 5], ['thirty', 3]] as const) {
      await lengthened(talk, times)
      await forgetParts()
      peaks[name] = await peakOf(() => deliverNow(talk, { without }))
    }
    const value = Math.max(faced, ...Object.values(peaks))
    return { value, unit: 'MB', target: '700 or less, flat in length', ok: value <= 700 && (peaks['thirty'] ?? 0) < (peaks['ten'] ?? 0) * 1.2, detail: { twoMinutesWithFaceMb: faced, tenMinutesMb: peaks['ten'], thirtyMinutesMb: peaks['thirty'] } }
  } finally {
    end()
  }
}
