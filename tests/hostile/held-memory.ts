import { readFileSync, readdirSync } from 'node:fs'

/** The most that processes of each kind held, in MB. */
export interface MostHeld {
  readonly server: number
  readonly worker: number
  readonly apart: number
}

const KINDS = {
  server: /server\/index\.mjs/,
  worker: /bin\/worker\.mjs/,
  apart: /bin\/(read-deck|draw-pages|make-handout)\.mjs|^(ffmpeg|ffprobe)$|soffice\.bin/,
} as const
const EVERY = 100

/** Watches what the processes of a product hold (proc(5): status). @param data its data folder, by which they are known */
export function watchMemory(data: string): { readonly most: () => MostHeld; readonly end: () => void } {
  const most = { server: 0, worker: 0, apart: 0 }
  const look = (): void => {
    for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
      try {
        const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0')
        const kind = (['server', 'worker', 'apart'] as const).find((one) => words.some((word) => KINDS[one].test(word)))
        if (kind === undefined || !readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`AISLE_DATA=${data}\0`)) continue
        most[kind] = Math.max(most[kind], Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024)
      } catch {
        // It ended while it was looked at.
      }
    }
  }
  const timer = setInterval(look, EVERY)
  return {
    most: () => ({ server: Math.round(most.server), worker: Math.round(most.worker), apart: Math.round(most.apart) }),
    end: () => {
      clearInterval(timer)
    },
  }
}
