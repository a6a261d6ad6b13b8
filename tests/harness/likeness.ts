/** Mean lightness of each pixel, 0 to 255. @param rgba four bytes a pixel */
const lightness = (rgba: Uint8Array | Uint8ClampedArray): Float64Array =>
  Float64Array.from(
    { length: rgba.length / 4 },
    (_, n) => 0.2126 * (rgba[n * 4] ?? 0) + 0.7152 * (rgba[n * 4 + 1] ?? 0) + 0.0722 * (rgba[n * 4 + 2] ?? 0),
  )

/**
 * How alike two pictures are: the structural similarity index (Wang et al., 2004) of their lightness over tiles of
 * 8 by 8 pixels.
 * @returns the mean over the picture and the worst tile of 64 by 64, each 1 for the same picture
 */
export function likeness(
  a: Uint8Array | Uint8ClampedArray,
  b: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
): { readonly mean: number; readonly worst: number } {
  const [x, y] = [lightness(a), lightness(b)]
  const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2]
  const tiles = new Map<string, number[]>()
  const all: number[] = []
  for (let top = 0; top + 8 <= height; top += 8) {
    for (let left = 0; left + 8 <= width; left += 8) {
      let [sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0]
      for (let row = top; row < top + 8; row += 1) {
        for (let column = left; column < left + 8; column += 1) {
          const [u, v] = [x[row * width + column] ?? 0, y[row * width + column] ?? 0]
          sx += u
          sy += v
          sxx += u * u
          syy += v * v
          sxy += u * v
        }
      }
      const [mx, my] = [sx / 64, sy / 64]
      const [vx, vy, cov] = [sxx / 64 - mx * mx, syy / 64 - my * my, sxy / 64 - mx * my]
      const value = ((2 * mx * my + c1) * (2 * cov + c2)) / ((mx * mx + my * my + c1) * (vx + vy + c2))
      all.push(value)
      const key = `${String(Math.floor(left / 64))}.${String(Math.floor(top / 64))}`
      const tile = tiles.get(key)
      if (tile === undefined) tiles.set(key, [value])
      else tile.push(value)
    }
  }
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length
  return { mean: mean(all), worst: Math.min(...[...tiles.values()].map(mean)) }
}
