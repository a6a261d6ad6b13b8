import { composedSlide, emptyComposition } from '@core/compose'
import { asId } from '@core/model'
import type { Layout } from '@core/model'
import { useTalk } from '~/stores/talk'

/** Puts in an empty slide after the one that is open, in the deck's own theme. */
export function useNewSlide() {
  const talk = useTalk()
  /** How many slides stand before the new one. */
  const after = computed(() => (talk.slide === null ? talk.slides.length : talk.slides.indexOf(talk.slide) + 1))
  const theme = computed(
    () =>
      talk.slides.slice(0, after.value).findLast((slide) => slide.composition !== null)?.composition?.theme ??
      talk.slides.find((slide) => slide.composition !== null)?.composition?.theme ??
      'paper',
  )

  function make(layout: Layout): void {
    const slide = composedSlide(asId(crypto.randomUUID()), emptyComposition(layout, theme.value))
    talk.edit({ kind: 'insert', at: after.value, slides: [slide] })
    talk.select(slide.id)
  }
  return { after, theme, make }
}
