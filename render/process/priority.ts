import { writeFile } from 'node:fs/promises'
import { getPriority, setPriority } from 'node:os'

/** Most tries to tell the system of a group's niceness, and the wait between them, in ms: it takes one in a tenth of a second. */
const TRIES = 20
const BETWEEN = 120

/**
 * Niceness of the group that the system shares processors out to (sched(7), autogroup): each session is one, and within a session alone do
 * processes stand back by their own niceness. A program of ours has a session of its own, so that it can be ended with all that it started.
 */
async function groupStepsBack(pid: number, niceness: number): Promise<void> {
  for (let n = 0; n < TRIES; n += 1) {
    try {
      await writeFile(`/proc/${String(pid)}/autogroup`, String(niceness))
      return
    } catch (error) {
      // Where there are no such groups, or it is gone already, there is nothing to be done.
      if (!(error instanceof Error && 'code' in error && error.code === 'EAGAIN')) return
    }
    await new Promise((resolve) => {
      setTimeout(resolve, BETWEEN)
    })
  }
}

/**
 * Has a program let others go first, also those of other sessions, no less than this process does; one that is gone already needs nothing.
 * @param pid that leads a session
 * @param niceness 0 to 19
 */
export function stepBack(pid: number, niceness: number): void {
  const least = Math.max(niceness, getPriority())
  if (least <= 0) return
  try {
    setPriority(pid, least)
  } catch {
    // It ended before it could be asked.
    return
  }
  void groupStepsBack(pid, least)
}
