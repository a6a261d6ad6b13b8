/** Noise that does not repeat (Marsaglia's xorshift). @returns gives a sample each time it is called, -1 to 1 */
export function hiss(): () => number {
  let state = 0x2545f491
  return () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return state / 2_147_483_648
  }
}
