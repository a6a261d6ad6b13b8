import { statSync } from 'node:fs'
import { deliverDemo, demoProduct, repeated } from './demo-product'
import type { Figure } from './run'

/** A film of slides without camera at 1080 lines, ten minutes long, ink growing on about a tenth of it: its length against the time to export it. */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const { took, file, length } = await deliverDemo(1080, (programme) => {
      const long = repeated(programme, 5)
      return { ...long, pieces: long.pieces.map((piece) => (piece.kind === 'recorded' ? { ...piece, camera: null } : piece)) }
    })
    const value = Number((length / took).toFixed(1))
    return { value, unit: 'x', target: '15 or more', ok: value >= 15, detail: { exportMs: Math.round(took), filmMs: length, bytes: statSync(file).size } }
  } finally {
    end()
  }
}
