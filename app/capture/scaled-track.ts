/**
 * Asks a track for pictures of a size and rate; one that has no such size has its pictures scaled by the browser.
 * @throws OverconstrainedError when it cannot be
 */
export async function scaleTrack(
  track: MediaStreamTrack,
  wanted: Pick<MediaTrackConstraints, 'width' | 'height' | 'frameRate'>,
): Promise<void> {
  // Not in TypeScript's types.
  const scaled: MediaTrackConstraints & { readonly resizeMode: 'crop-and-scale' } = { ...wanted, resizeMode: 'crop-and-scale' }
  await track.applyConstraints(scaled)
}
