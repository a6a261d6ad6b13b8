import type { Slide } from '@core/model'

/** What can be read on a slide. Most steps add to the one before: what is read is said once. */
export function textOn({ steps }: Slide): string {
  const texts = steps.map((step) => step.text.trim())
  return texts.filter((one, at) => one !== '' && !texts.slice(at + 1).some((later) => later.includes(one))).join('\n')
}
