import { statSync } from 'node:fs'
import { deliverDemo, demoProduct } from './demo-product'
import type { Figure } from './run'

/** A film of slides without camera at 1080 lines, ten minutes long, ink growing on about a tenth of it: its length against the time to export it. */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const { took, file, length } = await deliverDemo(1080, (programme) => ({
      ...programme,
      pieces: Array.from({ length: 5 }, (_, n) => programme.pieces.map((piece) => ({
        ...piece, id: `${piece.id}.${String(n)}` as typeof piece.id, visit: `${piece.visit}.${String(n)}` as typeof piece.visit,
        ...(piece.kind === 'recorded' ? { camera: null } : {}),
      }))).flat(),
    }))
    const value = Number((length / took).toFixed(1))
    return { value, unit: 'x', target: '15 or more', ok: value >= 15, detail: { exportMs: Math.round(took), filmMs: length, bytes: statSync(file).size } }
  } finally {
    end()
  }
}
