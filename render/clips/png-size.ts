import { open } from 'node:fs/promises'
import type { Size } from '@core/model'

/** Where the sides stand in a PNG file (W3C PNG, 11.2.2, "IHDR"). */
const [WIDTH_AT, HEIGHT_AT, HEADER] = [16, 20, 24]
/** Longest side of a picture of a screen. */
const LONGEST = 16_384

/** The sides that a PNG file says it has; null when it says none, or more than any screen has. */
export async function pngSize(path: string): Promise<Size | null> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEADER), 0, HEADER, 0)
    if (bytesRead < HEADER) return null
    const [width, height] = [buffer.readUInt32BE(WIDTH_AT), buffer.readUInt32BE(HEIGHT_AT)]
    return width > 0 && height > 0 && Math.max(width, height) <= LONGEST ? { width, height } : null
  } finally {
    await file.close()
  }
}
