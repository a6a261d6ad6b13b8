import { startApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import { Refusal } from '@core/model'
import type { AssetId, Deck, SlideId, Stroke } from '@core/model'

/** What the handout program is asked, on its standard input. */
export interface HandoutFileOrder {
  readonly name: string
  readonly deck: Deck
  readonly kind: 'notes' | 'viewerNotes'
  readonly ink: Readonly<Record<SlideId, readonly Stroke[]>>
  /** Where the pictures are that its slides show, by digest. */
  readonly pictures: Readonly<Record<AssetId, string>>
  /** Where the PDF is written. */
  readonly out: string
}

/**
 * Makes a handout in a process of its own that may run out of time or memory without harm to anything else.
 * @throws Refusal when it takes too much
 */
export async function makeHandoutApart(order: HandoutFileOrder, bounds: ApartBounds): Promise<void> {
  const maker = startApart('make-handout', bounds)
  try {
    maker.child.stdin?.end(JSON.stringify(order))
    await maker.done
  } catch (error) {
    if (maker.killed() === null) throw error
    throw new Refusal(
      'too-large',
      'This handout needs more time or memory than making one may take. Skip some of its slides, or make their pictures smaller.',
    )
  } finally {
    maker.end()
  }
}
