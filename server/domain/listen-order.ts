import type { Slide, SlideId, StretchId } from '@core/model'
import { showingsOf } from '@core/programme'
import { textOn } from '@core/screening'
import { sentencesOf, spokenForm, writtenText } from '@core/words'
import type { ShownText } from '@core/words'
import type { ListenOrder } from '@render/speech'
import type { Queries } from '@server/database'
import { slidesOf } from './decks'
import { loadStretches } from './films'

/** What there is to know of a recording before it is listened to. */
export interface ListenWish extends Omit<ListenOrder, 'voice'> {
  readonly language: string
}

/** Those that are shown, in their order, and those that stand before and after them in the deck. */
function slidesAround(deck: readonly Slide[], shown: readonly SlideId[]): readonly Slide[] {
  const wanted = new Set(shown)
  return deck.filter(
    ({ id }, n) => wanted.has(id) || [deck[n - 1], deck[n + 1]].some((other) => other !== undefined && wanted.has(other.id)),
  )
}

/** @returns null when there is no such recording any more */
export async function listenOrder(q: Queries, talk: string, stretch: StretchId): Promise<ListenWish | null> {
  const [[found], deck, row] = await Promise.all([
    loadStretches(q, [stretch]),
    slidesOf(q, talk),
    q
      .selectFrom('talk')
      .leftJoin('share', 'share.talk', 'talk.id')
      .select(['talk.language', 'talk.name', 'talk.terms', 'share.presenter'])
      .where('talk.id', '=', talk)
      .executeTakeFirst(),
  ])
  if (found === undefined || row === undefined) return null
  const { language } = row
  const showings = showingsOf(found)
  const slides = slidesAround(
    deck,
    showings.map(({ slide }) => slide),
  )
  const texts = slides.map(({ notes }) => writtenText(notes, language))
  const shown = showings.flatMap(({ slide, from }, n): readonly ShownText[] => {
    const text = slides.findIndex(({ id }) => id === slide)
    return text < 0 ? [] : [{ from, until: showings[n + 1]?.from ?? found.length, text }]
  })
  const names = [row.name, row.presenter ?? '', ...row.terms].map((text) => spokenForm(text, language).tokens.map(({ sound }) => sound))
  const onSlides = slides
    .flatMap((slide) => [slide.title, ...textOn(slide).split('\n')])
    .flatMap((text) => sentencesOf(writtenText(text, language)))
  const besides = [...names, ...onSlides].filter((sentence) => sentence.length > 0)
  return { language, peaks: found.peaks, length: found.length, texts, besides, shown }
}
