import { readFileSync, readdirSync } from 'node:fs'

/** Ticks a second of the system's own counting (`getconf CLK_TCK`). */
const TICKS = 100

const told = (pid: string, what: string): string => {
  try {
    return readFileSync(`/proc/${pid}/${what}`, 'utf8')
  } catch {
    // It ended while it was looked at.
    return ''
  }
}

/** Processor time that a process, and those of its children that have ended, had, in s; 0 when it is gone. */
function spentBy(pid: string): number {
  const fields = told(pid, 'stat').split(') ')[1]?.split(' ') ?? []
  const time = [11, 12, 13, 14].reduce((sum, n) => sum + Number(fields[n] ?? 0), 0)
  return time / TICKS
}

/** What a product's processes are. */
export type Part = 'server' | 'worker' | 'database' | 'other'

function partOf(pid: string, data: string): Part | null {
  const command = told(pid, 'cmdline')
  if (command.startsWith('postgres') || command.includes('/bin/postgres')) return 'database'
  if (!told(pid, 'environ').includes(data)) return null
  if (command.includes('server/index.mjs')) return 'server'
  return command.includes('worker.mjs') ? 'worker' : 'other'
}

/** The processes of a product. @param data its data folder */
export const processesOf = (data: string): readonly { readonly pid: string; readonly part: Part }[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      const part = partOf(pid, data)
      return part === null ? [] : [{ pid, part }]
    })

/** Memory that a process holds, in MB; 0 when it is gone. */
export const memoryHeldBy = (pid: string): number => Number(/VmRSS:\s+(\d+)/.exec(told(pid, 'status'))?.[1] ?? 0) / 1024

/** Processor time that each part of a product has had, in s. @param data its data folder */
export function spentByParts(data: string): Readonly<Record<Part, number>> {
  const spent: Record<Part, number> = { server: 0, worker: 0, database: 0, other: 0 }
  for (const { pid, part } of processesOf(data)) spent[part] += spentBy(pid)
  return spent
}
