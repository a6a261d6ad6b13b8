import type { Slide } from '@core/model'

/** What a slide shows, for those who do not see it: its own description, or what its pictures say of themselves; empty: nobody said. */
export function descriptionOf({
  description,
  steps,
  composition,
  drawing,
}: Pick<Slide, 'description' | 'steps' | 'composition' | 'drawing'>): string {
  if (description.trim() !== '') return description.trim()
  const shown = steps.at(-1)?.picture
  const pictures = shown?.kind === 'composed' ? shown.composition.pictures : (composition?.pictures ?? [])
  const drawn = drawing?.objects.flatMap(({ form }) => (form.kind === 'picture' ? [form.alt] : [])) ?? []
  return [...pictures.map(({ alt }) => alt), ...drawn]
    .map((alt) => alt.trim())
    .filter((alt) => alt !== '')
    .join('\n')
}
