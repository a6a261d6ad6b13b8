/** A try at a size: the encoder's quality, on whose scale less is finer, and the bytes that came of it. */
export interface SizeTry {
  readonly crf: number
  readonly bytes: number
}

/** What is looked for: at most so many bytes, and the finest and coarsest quality that make sense. */
export interface SizeWanted {
  readonly most: number
  readonly finest: number
  readonly coarsest: number
}

/** What comes next: another try, the try that is taken, or nothing that could be looked at. */
export type NextTry =
  | { readonly kind: 'try'; readonly crf: number }
  | { readonly kind: 'take'; readonly crf: number }
  | { readonly kind: 'impossible'; readonly least: number }

/** Of the most at least this much is used, and this much is aimed at. */
const LEAST_SHARE = 0.9
const AIM = 0.955
const MOST_TRIES = 7
/** How much coarser halves the bytes, on the scale of H.264's encoder; a first guess for others. */
const HALVES = 6
/** No encoder needs more to halve them: where two tries say so, they lie too close to each other to tell. */
const MOST_HALVES = 24
/** Steps of the scale. */
const STEP = 0.25
/** Two tries this close to each other say nothing new. */
const SAME = STEP / 2

const onScale = (crf: number): number => Math.round(crf / STEP) * STEP

const wasTried = (tries: readonly SizeTry[], crf: number): boolean => tries.some((one) => Math.abs(one.crf - crf) < SAME)

/** The quality to try next, from the best that fits and the least that does not. */
function nextCrf(
  tries: readonly SizeTry[],
  best: SizeTry | undefined,
  least: SizeTry | undefined,
  { most, finest, coarsest }: SizeWanted,
): number {
  const next = onScale(Math.min(coarsest, Math.max(finest, guess(tries, AIM * most))))
  const between = Math.min(best?.crf ?? coarsest, Math.max(least?.crf ?? finest, next))
  if (!wasTried(tries, between)) return between
  // Where the line leads nowhere new, the middle between what is too much and too little does.
  return onScale(((best?.crf ?? coarsest) + (least?.crf ?? finest)) / 2)
}

/**
 * Finds the quality at which a file stays under a size and makes use of it, by trying: bytes fall about exponentially as
 * the quality gets coarser, so the next try lies on the line through the nearest two in the logarithm of the bytes.
 * @param tries made so far, at least one
 */
export function nextTry(tries: readonly SizeTry[], wanted: SizeWanted): NextTry {
  const { most, finest, coarsest } = wanted
  const [best] = tries.filter(({ bytes }) => bytes <= most).sort((a, b) => b.bytes - a.bytes)
  const [least] = tries.filter(({ bytes }) => bytes > most).sort((a, b) => a.bytes - b.bytes)
  if (best !== undefined && (best.bytes >= LEAST_SHARE * most || best.crf <= finest + SAME)) return { kind: 'take', crf: best.crf }
  if (least !== undefined && least.crf >= coarsest - SAME) return { kind: 'impossible', least: least.bytes }
  const crf = nextCrf(tries, best, least, wanted)
  if (tries.length < MOST_TRIES && !wasTried(tries, crf)) return { kind: 'try', crf }
  return best === undefined ? { kind: 'impossible', least: least?.bytes ?? most } : { kind: 'take', crf: best.crf }
}

function guess(tries: readonly SizeTry[], wanted: number): number {
  const near = [...tries].sort((a, b) => Math.abs(Math.log(a.bytes / wanted)) - Math.abs(Math.log(b.bytes / wanted)))
  const [first, second] = near
  if (first === undefined) return 0
  const slope =
    second === undefined || second.crf === first.crf ? -Math.LN2 / HALVES : Math.log(second.bytes / first.bytes) / (second.crf - first.crf)
  return first.crf + Math.log(wanted / first.bytes) / (slope < -Math.LN2 / MOST_HALVES ? slope : -Math.LN2 / HALVES)
}
