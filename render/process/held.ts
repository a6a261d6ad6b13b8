import { availableParallelism } from 'node:os'

/** What a helper program is held to. It is not ours alone to decide what it does: it reads what people bring. */
export interface Hold {
  /** ms of the clock on the wall, after which it and all that it started is killed. */
  readonly time: number
  /** Bytes of memory of its own that it may ask for (RLIMIT_DATA). */
  readonly memory: number
  /** Bytes that a file may have that it writes (RLIMIT_FSIZE). */
  readonly file: number
}

const GB = 1024 ** 3

/** A program that reads a recording to its end is killed after this, in ms: it reads many times as fast as the longest recording plays. */
const LONGEST_RUN = 1_800_000

/** What every helper is held to that is not held to less. An encoder of 2160 lines asks for a third of that memory. */
export const USUAL_HOLD: Hold = { time: LONGEST_RUN, memory: 4 * GB, file: 64 * GB }

/**
 * What a program is held to that is started by one of ours that runs apart: no limit can be raised above that one's own.
 * @param time ms; no more than that one has
 */
export const holdInside = (time: number): Hold => ({ time, memory: GB, file: GB })

/**
 * How a program is started so that the system holds it to its limits, and ends it when the process that started it ends, however that does
 * (setpriv(1) and prlimit(1) of util-linux; each becomes the next, so there is one process).
 * @returns program and arguments
 */
export function heldTo({ time, memory, file }: Hold, program: string, args: readonly string[]): readonly [string, readonly string[]] {
  // No more processor time than all of them could give it within that time.
  const processor = Math.ceil(time / 1000) * availableParallelism()
  return [
    'setpriv',
    [
      '--pdeathsig',
      'KILL',
      '--no-new-privs',
      '--',
      'prlimit',
      '--core=0',
      `--cpu=${String(processor)}`,
      `--data=${String(memory)}`,
      `--fsize=${String(file)}`,
      '--',
      program,
      ...args,
    ],
  ]
}
