import { spawn } from 'node:child_process'
import { ownEnvironment } from './running-product'

/** What became of many who watched. */
export interface Watched {
  /** How often a buffer was empty. */
  readonly empty: number
  readonly bytes: number
  /** Bits a second of the film. */
  readonly rate: number
}

/**
 * Has many watch a film at once, in a process of their own.
 * @param media address of its media
 * @param span for how long, in s
 */
export const viewersOf = (media: string, viewers: number, span: number): Promise<Watched> =>
  new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'bench/viewers.ts', media, String(viewers), String(span)], {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: ownEnvironment(),
    })
    let text = ''
    child.stdout.on('data', (data: Buffer) => {
      text += data.toString()
    })
    child.on('error', reject)
    child.on('close', () => {
      resolve(JSON.parse(text) as Watched)
    })
  })
