import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startRunning } from './running-product'
import type { Figure } from './figure'

/** The second start of the product, nothing changed, to its first page. */
export async function measure(): Promise<Figure> {
  const data = mkdtempSync(join(tmpdir(), 'aisle-start-'))
  chmodSync(data, 0o755)
  try {
    const first = await startRunning(4391, data)
    await first.stop()
    const second = await startRunning(4391, data)
    await second.stop()
    const value = Number((second.took / 1000).toFixed(1))
    return {
      value,
      unit: 's',
      target: '10 or less',
      ok: value <= 10,
      detail: { firstMs: Math.round(first.took), secondMs: Math.round(second.took) },
    }
  } finally {
    rmSync(data, { recursive: true, force: true })
  }
}
