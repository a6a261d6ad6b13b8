import { spawn } from 'node:child_process'
import { once } from 'node:events'

/** A screen that nobody looks at, for what a browser does in a window alone. */
export interface Display {
  /** As programs are told it. */
  readonly name: string
  readonly end: () => void
}

/** Starts a screen of a size that a browser's window fits into. */
export async function startDisplay(): Promise<Display> {
  const child = spawn('Xvfb', ['-displayfd', '3', '-screen', '0', '1400x1000x24', '-nolisten', 'tcp'], {
    stdio: ['ignore', 'ignore', 'ignore', 'pipe'],
  })
  const said = child.stdio[3]
  if (said === null || said === undefined) throw new Error('the screen says nothing')
  const [number] = (await once(said, 'data')) as [Buffer]
  return {
    name: `:${number.toString().trim()}`,
    end: () => {
      child.kill('SIGTERM')
    },
  }
}
