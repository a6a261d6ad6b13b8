/**
 * Many who watch at once, in a process of their own: each takes the parts of a film in real time, as a player with a buffer does.
 * Started with the address of the media, how many watch, and for how long in s. Prints one line of JSON.
 */

/** A part of a film: where it lies in its file, and how long it is. */
interface Part {
  readonly from: number
  readonly bytes: number
  readonly seconds: number
}

/** How much a player holds ahead, in s. */
const BUFFER = 10

const [media = '', many = '300', span = '60'] = process.argv.slice(2)
const playlist = await (await fetch(`${media}/film-720.m3u8`)).text()
const lengths = [...playlist.matchAll(/#EXTINF:([\d.]+),/g)].map(([, length]) => Number(length))
const parts: readonly Part[] = [...playlist.matchAll(/#EXT-X-BYTERANGE:(\d+)@(\d+)/g)].map(([, bytes, from], n) => ({
  from: Number(from),
  bytes: Number(bytes),
  seconds: lengths[n] ?? 0,
}))
const whole = parts.reduce((sum, { bytes }) => sum + bytes, 0)
const seconds = parts.reduce((sum, part) => sum + part.seconds, 0)
const end = performance.now() + Number(span) * 1000

/** @returns how often its buffer ran empty, and bytes that it took */
async function watch(viewer: number): Promise<{ readonly empty: number; readonly bytes: number }> {
  // They come one after the other within the first ten seconds, and each begins somewhere else.
  await new Promise((resolve) => setTimeout(resolve, (viewer / Number(many)) * 10_000))
  let [empty, bytes] = [0, 0]
  /** Until when what it holds lasts, on the clock. */
  let lasts: number | null = null
  for (let n = viewer % parts.length; performance.now() < end; n = (n + 1) % parts.length) {
    const part = parts[n]
    if (part === undefined) break
    const answer = await fetch(`${media}/film-720.mp4`, {
      headers: { range: `bytes=${String(part.from)}-${String(part.from + part.bytes - 1)}` },
    })
    bytes += (await answer.arrayBuffer()).byteLength
    const now = performance.now()
    if (lasts !== null && now > lasts) empty += 1
    lasts = Math.max(lasts ?? now, now) + part.seconds * 1000
    const ahead = lasts - now - BUFFER * 1000
    if (ahead > 0) await new Promise((resolve) => setTimeout(resolve, ahead))
  }
  return { empty, bytes }
}

const watched = await Promise.all(Array.from({ length: Number(many) }, (_, n) => watch(n)))
console.log(
  JSON.stringify({
    empty: watched.reduce((sum, { empty }) => sum + empty, 0),
    bytes: watched.reduce((sum, { bytes }) => sum + bytes, 0),
    rate: Math.round((whole * 8) / seconds),
  }),
)

export {}
