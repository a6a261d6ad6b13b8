import { emptyComposition } from '@core/compose'
import { asId } from '@core/model'
import type { Layout, Slide } from '@core/model'
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
    const slide: Slide = {
      id: asId<'slide'>(crypto.randomUUID()),
      version: 1,
      title: '',
      notes: '',
      section: '',
      viewerNotes: '',
      description: '',
      steps: [],
      composition: emptyComposition(layout, theme.value),
      framing: null,
      planned: null,
      skip: false,
      optional: false,
      transition: 'cut',
    }
    talk.edit({ kind: 'insert', at: after.value, slides: [slide] })
    talk.select(slide.id)
  }
  return { after, theme, make }
}
