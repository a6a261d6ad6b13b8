/** Bytes that a second of camera and voice takes until it was measured. */
export const USUAL_BYTES = 330_000

/**
 * Minutes of recording that this browser's storage still has room for.
 * @param perSecond bytes that a second takes
 * @returns null when the browser does not tell
 */
export async function minutesLeft(perSecond: number): Promise<number | null> {
  if (!('storage' in navigator) || !('estimate' in navigator.storage)) return null
  const { quota, usage } = await navigator.storage.estimate()
  return quota === undefined || usage === undefined ? null : Math.max(0, (quota - usage) / perSecond / 60)
}
