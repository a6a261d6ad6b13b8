import { ALL_OF_IT, FORMATS, FRAME_RATES, LINES, LOUDNESSES } from '@core/model'
import type { Format, FrameRate, Lines, LoudnessWanted, Recipe, Size } from '@core/model'
import { videoSize } from '@core/plan'
import { CODINGS } from './file-facts'
import type { Bounds, Rules } from './rules'

/** Of the values within bounds the one nearest to what there is; what there is where none lies within. */
function nearest<Value extends number>(values: readonly Value[], { least = -Infinity, most = Infinity }: Bounds, now: Value): Value {
  const fit = values.filter((value) => value >= least && value <= most)
  return (
    fit.reduce<Value | null>((best, value) => (best === null || Math.abs(value - now) < Math.abs(best - now) ? value : best), null) ?? now
  )
}

const takes = ({ containers, videoCodecs, audioCodecs }: Rules, format: Format): boolean => {
  const { container, video, audio } = CODINGS[format]
  return (
    (containers === undefined || containers.includes(container)) &&
    (videoCodecs === undefined || (video !== null && videoCodecs.includes(video))) &&
    (audioCodecs === undefined || audioCodecs.includes(audio))
  )
}

/** A format that rules take; the one that is wanted already if they do. null: none that is made here. */
export const formatBy = (rules: Rules, now: Format): Format | null =>
  takes(rules, now) ? now : (FORMATS.find((format) => takes(rules, format)) ?? null)

/** Shapes that differ by less than this are one. */
const SAME = 1e-3

/** A size of its own, where the deck has another shape than is asked for. */
function ownSize({ shape: asked }: Rules, lines: Lines, shape: Size): Recipe['size'] {
  if (asked === undefined || Math.abs(asked.width / asked.height - shape.width / shape.height) < SAME) return null
  return { ...videoSize(asked, lines), fit: 'bars' }
}

function rateBy({ rates }: Rules, now: FrameRate): FrameRate {
  if (rates === undefined || rates.includes(now)) return now
  return FRAME_RATES.find((one) => rates.includes(one)) ?? now
}

/**
 * A recipe that makes what rules ask for, as near to the one there is as they allow. What they leave open stays as it is; what no recipe
 * can make stays too, and is told by `judge`.
 * @param shape of the deck
 * @param bytes that the file is reckoned to have at the recipe there is; null: not known. A file within the rules' size is left free
 */
export function recipeByRules(rules: Rules, recipe: Recipe, shape: Size, bytes: number | null): Recipe {
  const lines = nearest(LINES, rules.lines ?? {}, recipe.lines)
  const most = rules.length?.most
  const size = rules.bytes ?? Infinity
  return {
    ...recipe,
    part: ALL_OF_IT,
    timing: 'recorded',
    each: 'talk',
    format: formatBy(rules, recipe.format) ?? recipe.format,
    lines,
    size: ownSize(rules, lines, shape),
    rate: rateBy(rules, recipe.rate),
    loudness: nearest<LoudnessWanted>(LOUDNESSES, rules.loudness ?? {}, recipe.loudness),
    bits: bytes !== null && bytes > size ? { kind: 'size', most: size } : recipe.bits,
    captions: rules.captions?.where === 'inside' ? 'inside' : recipe.captions,
    name: rules.fileName ?? recipe.name,
    limit: most === undefined ? recipe.limit : { kind: 'hold', limit: most * 1000 },
  }
}
