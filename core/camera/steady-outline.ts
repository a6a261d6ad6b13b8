/** So far two outlines may differ in a pixel, of 255, before that is taken for a movement and not for the network's doubt. */
const DOUBT = 110
/** How much of a pixel comes from the outlines before and after, where nothing moves. */
const AROUND = 0.7

/**
 * An outline of a series with what flickers at its edges taken out: what is seen before and after has a share in it, less where something
 * moves.
 * @param before, now, after as many values each, 0 to 255; null where the series begins or ends
 * @returns as many
 */
export function steadyOutline(before: Uint8Array | null, now: Uint8Array, after: Uint8Array | null): Uint8Array {
  const steady = new Uint8Array(now.length)
  for (let n = 0; n < now.length; n += 1) {
    const value = now[n] ?? 0
    const earlier = before?.[n] ?? value
    const later = after?.[n] ?? value
    const middle = (earlier + later) / 2
    const moved = Math.abs(earlier - later) / 2 + Math.abs(value - middle)
    const share = AROUND * Math.max(0, 1 - moved / DOUBT)
    steady[n] = Math.round(value * (1 - share) + middle * share)
  }
  return steady
}
