import { Readable } from 'node:stream'
import { createInterface } from 'node:readline'
import { readFile } from 'node:fs/promises'
import { pipeline } from 'node:stream/promises'
import type { ChildProcess } from 'node:child_process'
import { killWhole, start } from './run'
import type { Running } from './run'

/** Programs of ours that open what is not ours, each in a process that may die. */
export type ApartProgram = 'read-deck' | 'draw-pages' | 'make-handout' | 'hear-parts' | 'unpack-archive' | 'denoise' | 'find-outline'

export interface ApartBounds {
  /** ms */
  readonly time: number
  /** MB of memory the process may hold */
  readonly memory: number
  /** Folder of the built programs; null: they are run from their source. */
  readonly programs: string | null
  /** Folder of the product, where their source is. */
  readonly home: string
  readonly signal?: AbortSignal | undefined
  /** How much others are let go first, 0 to 19. */
  readonly niceness?: number
}

/** How often its memory is looked at, in ms. */
const WATCH = 150
const MB = 1024 ** 2
/** So much more than it may hold it may ask for, in MB: the runtime asks for up to 1.1 GB that it does not use. */
const ASKED = 2048

async function residentMegabytes(pid: number): Promise<number> {
  try {
    const status = await readFile(`/proc/${String(pid)}/status`, 'utf8')
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024
  } catch {
    return 0
  }
}

/** A program of ours that runs apart. */
export interface Apart {
  readonly child: ChildProcess
  readonly done: Running['done']
  readonly output: Readable
  /** Why it was killed, if it was. */
  readonly killed: () => 'memory' | 'time' | null
  /** Kills it if it still runs. */
  readonly end: () => void
}

/** Starts one of our programs in a process of its own that may run out of time or memory, or die, without harm to anything else. */
export function startApart(program: ApartProgram, { time, memory, programs, home, signal, niceness = 0 }: ApartBounds): Apart {
  const file = programs === null ? ['--import', 'tsx', `${home}/render/bin/${program}.ts`] : [`${programs}/${program}.mjs`]
  const began = performance.now()
  let output: Readable | undefined
  const { child, done } = start(process.execPath, [`--max-old-space-size=${String(memory)}`, ...file], {
    hold: { time, memory: (memory + ASKED) * MB, file: 2048 * MB },
    signal,
    niceness,
    onOutput: (stream) => {
      output = stream
    },
  })
  let tooMuch = false
  const watch = setInterval(() => {
    void residentMegabytes(child.pid ?? 0).then((held) => {
      if (held <= memory) return
      tooMuch = true
      killWhole(child)
    })
  }, WATCH)
  const end = (): void => {
    clearInterval(watch)
    killWhole(child)
  }
  child.once('close', () => {
    clearInterval(watch)
  })
  if (output === undefined) throw new Error('a program that runs apart has an output')
  const inTime = (): 'time' | null => (performance.now() - began >= time ? 'time' : null)
  return { child, done, output, killed: () => (tooMuch ? 'memory' : inTime()), end }
}

/**
 * Hands what comes through one of our programs, and what that makes of it over as it is read.
 * @throws ProcessFailed at the end when it died, and whatever `chunks` throws
 */
export async function* throughApart(
  program: ApartProgram,
  chunks: AsyncIterable<Uint8Array>,
  bounds: ApartBounds,
): AsyncGenerator<Uint8Array> {
  const running = startApart(program, bounds)
  const { stdin } = running.child
  if (stdin === null) throw new Error('a program that runs apart has an input')
  const fed = pipeline(Readable.from(chunks), stdin)
  // Whoever awaits it hears of a failure; until then it is not unhandled.
  fed.catch(() => undefined)
  try {
    for await (const chunk of running.output) yield chunk as Uint8Array
    await fed
    await running.done
  } finally {
    running.end()
  }
}

/** What a program prints, line by line. */
export const linesOf = (output: Readable): AsyncIterable<string> => createInterface({ input: output })
