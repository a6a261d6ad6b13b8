import { spawn } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Figure } from './run'

/** Starts the product by its own command and waits for its first page. @returns ms until then */
async function startOnce(data: string, port: string): Promise<number> {
  const began = performance.now()
  const child = spawn('./start.sh', ['--data', data, '--port', port], { stdio: 'ignore' })
  const gone = new Promise((resolve) => { child.once('exit', resolve) })
  try {
    for (;;) {
      const page = await fetch(`http://127.0.0.1:${port}/`).then((answer) => answer.ok, () => false)
      if (page) return performance.now() - began
      if (child.exitCode !== null) throw new Error('the start command ended')
      await new Promise((resolve) => { setTimeout(resolve, 50) })
    }
  } finally {
    child.kill('SIGINT')
    await gone
  }
}

/** The second start of the product, nothing changed, to its first page. */
export async function measure(): Promise<Figure> {
  const data = mkdtempSync(join(tmpdir(), 'aisle-start-'))
  chmodSync(data, 0o755)
  try {
    const first = await startOnce(data, '4391')
    const second = await startOnce(data, '4391')
    const value = Number((second / 1000).toFixed(1))
    return { value, unit: 's', target: '10 or less', ok: value <= 10, detail: { firstMs: Math.round(first), secondMs: Math.round(second) } }
  } finally {
    rmSync(data, { recursive: true, force: true })
  }
}
