import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'

interface Kept {
  readonly name: string
  readonly run: () => ChildProcess
  child: ChildProcess
  deaths: number
}

/** Wait before a process that died is started again, in ms, and the longest wait. */
const FIRST_WAIT = 500
const LONGEST_WAIT = 15_000

/** Runs the product's processes and starts again the ones that die. */
export class Children {
  readonly #kept: Kept[] = []
  #stopping = false

  /** Starts a process and keeps it running. */
  keep(name: string, program: string, args: readonly string[], env: NodeJS.ProcessEnv): void {
    const run = (): ChildProcess => spawn(program, args, { stdio: ['ignore', 'inherit', 'inherit'], env })
    const kept: Kept = { name, run, child: run(), deaths: 0 }
    this.#kept.push(kept)
    this.#watch(kept)
  }

  #watch(kept: Kept): void {
    const began = Date.now()
    kept.child.on('exit', (code, signal) => {
      if (this.#stopping) return
      kept.deaths = Date.now() - began > 60_000 ? 1 : kept.deaths + 1
      const wait = Math.min(LONGEST_WAIT, FIRST_WAIT * 2 ** (kept.deaths - 1))
      console.error(`The ${kept.name} stopped (${signal ?? String(code)}); it is started again in ${String(wait / 1000)} s.`)
      setTimeout(() => {
        if (this.#stopping) return
        kept.child = kept.run()
        this.#watch(kept)
      }, wait)
    })
  }

  /** Ends all, in the order in which they were started, and waits for each. */
  async stop(): Promise<void> {
    this.#stopping = true
    for (const { child } of this.#kept) {
      if (child.exitCode !== null || child.signalCode !== null) continue
      const gone = new Promise((resolve) => {
        child.once('exit', resolve)
      })
      child.kill('SIGTERM')
      const hard = setTimeout(() => {
        child.kill('SIGKILL')
      }, 8000)
      await gone
      clearTimeout(hard)
    }
  }
}
