/** Capture times of each camera's last pictures, in ms of the page's clock. A camera is watched from when it is opened: the first pictures of a new watcher come too late. */
const times = new WeakMap<MediaStreamTrack, number[]>()
const REMEMBERED = 300

/** Notes that a camera took a picture. */
export function noteFrame(track: MediaStreamTrack, taken: number): void {
  const known = times.get(track) ?? []
  known.push(taken)
  if (known.length > REMEMBERED) known.splice(0, known.length - REMEMBERED)
  times.set(track, known)
}

const LOOK_EVERY = 50
const PATIENCE = 3000

/** When a camera took its first picture at or after a time; null when none came in three seconds. */
export async function firstFrame(track: MediaStreamTrack, since: number): Promise<number | null> {
  for (let waited = 0; waited < PATIENCE; waited += LOOK_EVERY) {
    const found = times.get(track)?.find((taken) => taken >= since)
    if (found !== undefined) return found
    await new Promise((resolve) => { setTimeout(resolve, LOOK_EVERY) })
  }
  return null
}
