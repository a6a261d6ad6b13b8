import type { Slide } from '@core/model'

/** Addresses that a slide leads to on any of its steps, each once. */
export const linksOfSlide = ({ steps }: Pick<Slide, 'steps'>): readonly string[] => [
  ...new Set(
    steps.flatMap(({ links, picture }) => [
      ...(links ?? []).map(({ address }) => address),
      ...(picture.kind === 'composed' ? picture.composition.pictures.flatMap(({ leadsTo }) => leadsTo ?? []) : []),
    ]),
  ),
]
