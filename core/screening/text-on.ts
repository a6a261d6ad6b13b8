import { wordsOf } from '@core/markup'
import type { Slide } from '@core/model'
import { wordsDrawn } from '@core/objects'

/** What can be read on a slide. Most steps add to the one before: what is read is said once. */
export function textOn(slide: Slide): string {
  const texts = slide.steps.map((step) => step.text.trim())
  const own = texts.filter((one, at) => one !== '' && !texts.slice(at + 1).some((later) => later.includes(one)))
  return [...own, ...wordsDrawn(slide).map(wordsOf)].join('\n')
}
