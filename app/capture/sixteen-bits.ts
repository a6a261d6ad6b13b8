/** Samples of -1 to 1, in parts, as one run of samples of 16 bits. */
export function sixteenBits(parts: readonly Float32Array[]): Int16Array<ArrayBuffer> {
  const samples = new Int16Array(parts.reduce((sum, part) => sum + part.length, 0))
  let n = 0
  for (const part of parts) {
    for (const sample of part) {
      samples[n] = Math.round(Math.max(-1, Math.min(1, sample)) * 32_767)
      n += 1
    }
  }
  return samples
}
