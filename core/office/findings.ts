import { unreachable } from '@core/model'

/** Something of an office deck that is not in the talk as it was in the file. `slide` counts from 1, in the file. */
export type OfficeFinding =
  /** An effect that steps do not have: something grows, turns or changes its colour. */
  | { readonly kind: 'effect'; readonly slide: number }
  /** Something comes when it itself is clicked on. */
  | { readonly kind: 'trigger'; readonly slide: number }
  /** A chart, a drawing or letters that come in parts. */
  | { readonly kind: 'parts'; readonly slide: number }
  /** Something comes by itself a while after the slide. */
  | { readonly kind: 'delay'; readonly slide: number }
  /** Something goes along a path. */
  | { readonly kind: 'path'; readonly slide: number }
  | { readonly kind: 'transition'; readonly slide: number }
  /** A film or a sound that is in the file and cannot be read. */
  | { readonly kind: 'clip'; readonly slide: number }
  /** A film that is on the internet. @param host where */
  | { readonly kind: 'internet'; readonly slide: number; readonly host: string }
  /** A picture or a file that lies elsewhere. */
  | { readonly kind: 'elsewhere'; readonly slide: number }
  /** A picture, film or sound that the file names and does not hold. */
  | { readonly kind: 'missing'; readonly slide: number }
  /** A recording on a slide that cannot be read. */
  | { readonly kind: 'recording'; readonly slide: number }
  /** The file does not say when its clicks were made while it was recorded. */
  | { readonly kind: 'clicks'; readonly slide: number }
  | { readonly kind: 'macros' }
  /** A font that is not here, and what stands in for it. */
  | { readonly kind: 'font'; readonly font: string; readonly standIn: string }

/** Findings that are told as one sentence for all slides that they are on. */
const ON_SLIDES = [
  'effect',
  'trigger',
  'parts',
  'delay',
  'path',
  'transition',
  'clip',
  'elsewhere',
  'missing',
  'recording',
  'clicks',
] as const satisfies readonly OfficeFinding['kind'][]

const WHAT: Readonly<Record<(typeof ON_SLIDES)[number], string>> = {
  effect: 'something grows, turns or changes colour in the file. It stands still here.',
  trigger: 'something answers to a click on itself. It is there from the start here.',
  parts: 'a chart, a drawing or a text comes in smaller parts than points. It comes as a whole here.',
  delay: 'something comes by itself after a while. It comes at once here.',
  path: 'something goes along a path. Each step shows it where it arrives.',
  transition: 'the slide comes in a way that is not known here. It fades in.',
  clip: 'a film or a sound on the slide cannot be read. Only its picture is shown.',
  elsewhere: 'something lies outside the file. It is never fetched and is left out.',
  missing: 'the file names a picture, film or sound that is not in it. It is left out.',
  recording: 'the recorded voice cannot be read. The slide has none.',
  clicks: 'the file does not say when its steps were shown. They are spread over what was said.',
}

/** @param numbers in order @returns such as “3, 7 and 12”, or “1 to 4” for those in a row */
export function listed(numbers: readonly number[]): string {
  const runs: { from: number; to: number }[] = []
  for (const number of numbers) {
    const last = runs.at(-1)
    if (last?.to === number - 1) last.to = number
    else runs.push({ from: number, to: number })
  }
  const parts = runs.flatMap(({ from, to }) => {
    if (to - from >= 2) return [`${String(from)} to ${String(to)}`]
    return to === from ? [String(from)] : [String(from), String(to)]
  })
  return parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${String(parts.at(-1))}`
}

/** One line of a report: on which slides, counted from 1 as in the file and empty for the whole file, and what. */
export interface FindingLine {
  readonly slides: readonly number[]
  readonly sentence: string
  /** A film of one's own can take the place of what is missing there. */
  readonly wantsFilm?: boolean
}

const onSlides = (slides: readonly number[], what: string): FindingLine => ({
  slides,
  sentence: `${slides.length === 1 ? 'Slide' : 'Slides'} ${listed(slides)}: ${what}`,
})

const byNumber = (a: number, b: number): number => a - b

/** Says in words what differs from the file, what concerns several slides once. */
export function findingLines(findings: readonly OfficeFinding[]): readonly FindingLine[] {
  const lines = ON_SLIDES.flatMap((kind) => {
    const slides = [...new Set(findings.flatMap((one) => (one.kind === kind ? [one.slide] : [])))].sort(byNumber)
    return slides.length === 0 ? [] : [onSlides(slides, WHAT[kind])]
  })
  const others = findings.flatMap((one): readonly FindingLine[] => {
    switch (one.kind) {
      case 'internet':
        return [
          {
            ...onSlides([one.slide], `a film is on the internet, at ${one.host}. It is never fetched: bring a file of your own instead.`),
            wantsFilm: true,
          },
        ]
      case 'macros':
        return [{ slides: [], sentence: 'There are macros in the file. They were neither run nor kept.' }]
      case 'font':
        return [{ slides: [], sentence: `The font ${one.font} is not installed on this server; ${one.standIn} stands in for it.` }]
      case 'effect':
      case 'trigger':
      case 'parts':
      case 'delay':
      case 'path':
      case 'transition':
      case 'clip':
      case 'elsewhere':
      case 'missing':
      case 'recording':
      case 'clicks':
        return []
      default:
        return unreachable(one)
    }
  })
  // What is about one slide is told before what is about the whole file.
  return [...lines, ...others].sort((a, b) => Number(a.slides.length === 0) - Number(b.slides.length === 0))
}
