import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { Readable } from 'node:stream'
import { USUAL_HOLD, heldTo } from './held'
import type { Hold } from './held'
import { stepBack } from './priority'

/** A helper program ended badly. `tail` is the last it said, for the log. */
export class ProcessFailed extends Error {
  readonly program: string
  readonly tail: string
  readonly exitCode: number | null

  constructor(program: string, exitCode: number | null, tail: string) {
    super(`${program} ended with ${exitCode === null ? 'a signal' : String(exitCode)}: ${tail.trim().split('\n').at(-1) ?? ''}`)
    this.name = 'ProcessFailed'
    this.program = program
    this.exitCode = exitCode
    this.tail = tail
  }
}

export interface Running {
  readonly child: ChildProcess
  /** Everything printed on standard output, when that is collected. */
  readonly done: Promise<{ readonly stdout: Buffer; readonly stderr: string }>
}

export interface RunOptions {
  readonly signal?: AbortSignal | undefined
  /** What it is held to, where that is less than usual. */
  readonly hold?: Partial<Hold>
  /** How much others are let go first, 0 to 19; what starts it may stand further back already. */
  readonly niceness?: number
  /** Hands standard output over as it comes instead of collecting it. */
  readonly onOutput?: (stream: Readable) => void
  /** Hands over what the program writes to its file descriptor 3. */
  readonly onThird?: (stream: Readable) => void
}

/** How much of standard error is kept, in characters. */
const TAIL = 20_000

/** Kills a program and all that it started. */
export function killWhole({ pid }: ChildProcess): void {
  if (pid === undefined) return
  try {
    process.kill(-pid, 'SIGKILL')
  } catch {
    // It ended before.
  }
}

/** Kills a program when its time is over or nobody wants it any more. */
function endInTime(child: ChildProcess, time: number, signal: AbortSignal | undefined): void {
  const kill = (): void => {
    killWhole(child)
  }
  const timer = setTimeout(kill, time)
  signal?.addEventListener('abort', kill)
  if (signal?.aborted === true) kill()
  child.once('close', () => {
    clearTimeout(timer)
    signal?.removeEventListener('abort', kill)
  })
}

/** Settings of ours, secrets among them, are nothing for programs that open what others brought. */
const OURS = /^(AISLE_|NUXT_|NITRO_|DATABASE_URL$)/
const withoutSettings = (env: NodeJS.ProcessEnv): NodeJS.ProcessEnv =>
  Object.fromEntries(Object.entries(env).filter(([name]) => !OURS.test(name)))

/**
 * Starts a program without a shell, in a group of its own and held to limits; its standard input is open for writing.
 * @param program a name on the path
 * @param args handed over as they are
 */
export function start(program: string, args: readonly string[], options: RunOptions = {}): Running {
  const hold = { ...USUAL_HOLD, ...options.hold }
  const [held, heldArgs] = heldTo(hold, program, args)
  const child = spawn(held, heldArgs, {
    stdio: options.onThird === undefined ? ['pipe', 'pipe', 'pipe'] : ['pipe', 'pipe', 'pipe', 'pipe'],
    detached: true,
    env: withoutSettings(process.env),
  })
  endInTime(child, hold.time, options.signal)
  if (child.pid !== undefined) stepBack(child.pid, options.niceness ?? 0)
  const output: Buffer[] = []
  let tail = ''
  const third = child.stdio[3]
  if (third instanceof Readable) options.onThird?.(third)
  if (options.onOutput === undefined) child.stdout.on('data', (data: Buffer) => output.push(data))
  else options.onOutput(child.stdout)
  child.stderr.on('data', (data: Buffer) => {
    tail = (tail + data.toString()).slice(-TAIL)
  })
  // A program that ends before it has read everything breaks the pipe; its exit code says why.
  child.stdin.on('error', () => undefined)
  const done = new Promise<{ stdout: Buffer; stderr: string }>((resolve, reject) => {
    child.on('error', reject)
    child.on('close', (code) => {
      if (options.signal?.aborted === true) reject(options.signal.reason as Error)
      else if (code === 0) resolve({ stdout: Buffer.concat(output), stderr: tail })
      else reject(new ProcessFailed(program, code, tail))
    })
  })
  // Whoever awaits it hears of a failure; until then it is not unhandled.
  done.catch(() => undefined)
  return { child, done }
}

/** Hands over all that a program is to read, as long as it reads, and then the end. */
async function feedAll(child: ChildProcess, input: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<void> {
  try {
    for await (const data of input) if (!(await feed(child, data))) return
  } finally {
    child.stdin?.end()
  }
}

/**
 * Runs a program and hands its output over as it is read; it waits for its reader.
 * @param input what stands on its standard input, read as the program reads it; left out: nothing
 * @throws ProcessFailed at the end, and whatever `input` throws
 */
export async function* outputOf(
  program: string,
  args: readonly string[],
  { input, ...options }: Omit<RunOptions, 'onOutput'> & { readonly input?: AsyncIterable<Uint8Array> } = {},
): AsyncGenerator<Buffer> {
  const { child, done } = start(program, args, { ...options, onOutput: () => undefined })
  const fed = feedAll(child, input ?? [])
  // Whoever awaits it hears of a failure; until then it is not unhandled.
  fed.catch(() => undefined)
  let ended = false
  try {
    for await (const chunk of child.stdout ?? []) yield chunk as Buffer
    ended = true
  } finally {
    // Whoever reads no further wants no more of it.
    if (!ended) killWhole(child)
    await fed
  }
  await done
}

/** Runs a program to its end, fed as fast as it reads; what it prints is dropped. @throws ProcessFailed, and whatever `input` throws */
export async function runFed(
  program: string,
  args: readonly string[],
  input: AsyncIterable<Uint8Array>,
  options: Omit<RunOptions, 'onOutput'> = {},
): Promise<void> {
  for await (const printed of outputOf(program, args, { ...options, input })) void printed
}

/** Runs a program to its end with nothing on its standard input. */
export async function run(
  program: string,
  args: readonly string[],
  options: RunOptions = {},
): Promise<{ readonly stdout: Buffer; readonly stderr: string }> {
  const { child, done } = start(program, args, options)
  child.stdin?.end()
  return await done
}

/**
 * Writes to a running program and waits until it was handed over whole, so that the bytes may be changed again.
 * @returns false once the program has gone
 */
export async function feed(child: ChildProcess, data: Uint8Array): Promise<boolean> {
  const { stdin } = child
  if (stdin === null || stdin.destroyed || child.exitCode !== null) return false
  await new Promise<void>((resolve) => {
    stdin.write(data, () => {
      resolve()
    })
  })
  return !stdin.destroyed
}
