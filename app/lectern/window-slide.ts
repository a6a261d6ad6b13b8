import { composedSlide, emptyComposition } from '@core/compose'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { Slide } from '@core/model'
import type { useTalk } from '~/stores/talk'

/** Where the face is over a window unless somebody puts it elsewhere: most programs have least in that corner. */
const FACE = { x: 0.78, y: 0.73, w: 0.19, h: 0.22 }

/**
 * Puts a slide for a window behind the one that is up, in the deck's own theme, and has it saved: what is recorded can only name slides
 * that the server knows.
 * @returns the slide; null when it could not be saved, which is said, and nothing has changed
 */
export async function makeWindowSlide(talk: ReturnType<typeof useTalk>, up: Slide, name: string): Promise<Slide | null> {
  const at = talk.slides.findIndex(({ id }) => id === up.id) + 1
  const theme = talk.slides.find(({ composition }) => composition !== null)?.composition?.theme ?? 'paper'
  const made = composedSlide(asId(crypto.randomUUID()), { ...emptyComposition('opening', theme), heading: name }, name)
  talk.edit({ kind: 'insert', at, slides: [{ ...made, framing: { ...PLAIN_FRAMING, rect: FACE } }] })
  await talk.save()
  const slide = talk.slides.find(({ id }) => id === made.id)
  if (slide !== undefined && talk.waiting.length === 0) return slide
  if (slide !== undefined) talk.undo()
  return null
}
