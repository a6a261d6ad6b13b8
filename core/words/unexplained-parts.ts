import type { Ms, Said } from '@core/model'
import type { TimeRange } from '@core/voice'

/** Shorter parts are a word or two among others, in ms. */
const SHORTEST: Ms = 500
/** Parts nearer to each other than this are one. */
const NEAR: Ms = 700

/** As few written words among others are chance: whoever knows only what is written hears it everywhere. */
const CHANCE = 2

/** Whether words are taken for something else than what is written: those that are not, and written ones among them that are few. */
function unexplained(words: Said['words']): readonly boolean[] {
  const isHeard = words.map(({ source }) => source === 'heard')
  const out = [...isHeard]
  let begin = 0
  for (let n = 1; n <= words.length; n += 1) {
    if (n < words.length && isHeard[n] === isHeard[begin]) continue
    const among = (isHeard[begin - 1] ?? true) && (isHeard[n] ?? true) && (begin > 0 || n < words.length)
    if (isHeard[begin] === false && n - begin <= CHANCE && among) out.fill(true, begin, n)
    begin = n
  }
  return out
}

/**
 * Parts of a voice in which somebody said what is not written, as far as that is known yet: they can be listened to once more, without what
 * is written in mind.
 */
export function unexplainedParts({ words }: Said): readonly TimeRange[] {
  const parts: { from: Ms; to: Ms }[] = []
  const wanted = unexplained(words)
  words.forEach(({ from, until }, n) => {
    if (wanted[n] !== true) return
    const last = parts.at(-1)
    if (last !== undefined && wanted[n - 1] === true && from - last.to < NEAR) last.to = until
    else parts.push({ from, to: until })
  })
  return parts.filter(({ from, to }) => to - from >= SHORTEST)
}
