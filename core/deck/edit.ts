import { dequal } from 'dequal'
import { recomposed } from '@core/compose'
import { Refusal, unreachable } from '@core/model'
import { consistent, ownSteps, withDrawnSteps } from '@core/objects'
import type { Clip, Composition, Deck, Drawing, Framing, Ms, Size, Slide, SlideId, Transition } from '@core/model'

/** What the presenter can change of a slide. */
export interface SlideFields {
  readonly title?: string
  readonly section?: string
  readonly notes?: string
  readonly viewerNotes?: string
  readonly description?: string
  readonly planned?: Ms | null
  readonly skip?: boolean
  readonly optional?: boolean
  readonly framing?: Framing | null
  readonly transition?: Transition
  /** Empty: it has none any more. */
  readonly clips?: readonly Clip[]
  /** Without objects: nothing is drawn on it any more. */
  readonly drawing?: Drawing
  /** Only of slides that were made here. */
  readonly composition?: Composition
}

/** A change to a deck, as data: it can be sent, kept and inverted. */
export type DeckEdit =
  /** The named slides, in deck order, come to stand together before `before`, or at the end when that is null. */
  | { readonly kind: 'move'; readonly slides: readonly SlideId[]; readonly before: SlideId | null }
  | { readonly kind: 'set'; readonly slides: readonly SlideId[]; readonly fields: SlideFields }
  | { readonly kind: 'remove'; readonly slides: readonly SlideId[] }
  | { readonly kind: 'insert'; readonly at: number; readonly slides: readonly Slide[] }
  /** Slides that stand next to each other become steps of the first; their notes are put together. */
  | { readonly kind: 'merge'; readonly slides: readonly SlideId[] }
  /** The steps of a slide after the first `keep` become a slide of their own after it. */
  | { readonly kind: 'split'; readonly slide: SlideId; readonly keep: number; readonly as: SlideId }
  | { readonly kind: 'shape'; readonly shape: Size }
  /** Several edits as one, for undoing a change of many slides at once. */
  | { readonly kind: 'all'; readonly edits: readonly DeckEdit[] }

const known = (deck: Deck, ids: readonly SlideId[]): ReadonlySet<SlideId> => {
  const present = new Set(deck.slides.map((slide) => slide.id))
  const missing = ids.filter((id) => !present.has(id))
  if (missing.length > 0) {
    throw new Refusal('conflict', 'A slide of this change is no longer in the deck. Nothing was changed.', { missing })
  }
  return new Set(ids)
}

/** Fields whose change viewers see. */
const SEEN = ['framing', 'transition', 'composition', 'clips', 'drawing'] as const

/** Where the inset was proposed for other steps than it has now. */
function withoutProposal({ proposedInset: _, ...slide }: Slide): Slide {
  return slide
}

/** A slide with what is drawn on it as it can be, and steps for that. */
function redrawn({ drawing, ...slide }: Slide): Slide {
  if (drawing === undefined || drawing.objects.length === 0) return withDrawnSteps(slide)
  return withDrawnSteps({ ...slide, drawing: consistent(drawing, ownSteps(slide).length) })
}

function withFields(slide: Slide, fields: SlideFields, shape: Size): Slide {
  if (fields.composition !== undefined && slide.composition === null) {
    throw new Refusal('malformed', 'This slide came from a file, so what is on it cannot be changed here.')
  }
  const seen = SEEN.some((key) => fields[key] !== undefined && !dequal(fields[key], slide[key]))
  const changed: Slide = { ...slide, ...fields, version: slide.version + (seen ? 1 : 0) }
  if (!seen) return changed
  // Where the face hides nothing is another question with other clips, and with something drawn.
  const same = dequal([changed.clips, changed.drawing], [slide.clips, slide.drawing])
  return redrawn(recomposed(same ? changed : withoutProposal(changed), shape))
}

const joinedNotes = (notes: readonly string[]): string => notes.filter((text) => text.trim() !== '').join('\n\n')

/** The clips of slides whose steps become those of one. */
function clipsTogether(slides: readonly Slide[]): Pick<Slide, 'clips'> {
  let first = 0
  const clips: Clip[] = []
  for (const { clips: own = [], steps } of slides) {
    clips.push(...own.map((clip) => ({ ...clip, step: clip.step + first })))
    first += steps.length
  }
  return clips.length === 0 ? {} : { clips }
}

function merge(deck: Deck, edit: Extract<DeckEdit, { kind: 'merge' }>): Deck {
  const ids = known(deck, edit.slides)
  const first = deck.slides.findIndex((slide) => ids.has(slide.id))
  const together = deck.slides.slice(first, first + ids.size)
  const [head] = together
  if (head === undefined || together.length < 2 || !together.every((slide) => ids.has(slide.id))) {
    throw new Refusal('malformed', 'Only slides that stand next to each other can become one.')
  }
  if (together.some((slide) => slide.composition !== null)) {
    throw new Refusal('malformed', 'Slides made here cannot be steps of another slide; let their points come in by step instead.')
  }
  if (together.some((slide) => slide.drawing !== undefined)) {
    throw new Refusal('malformed', 'Slides that something is drawn on cannot become steps of one slide.')
  }
  const whole: Slide = {
    ...withoutProposal(head),
    version: head.version + 1,
    steps: together.flatMap((slide) => slide.steps),
    ...clipsTogether(together),
    notes: joinedNotes(together.map((slide) => slide.notes)),
    viewerNotes: joinedNotes(together.map((slide) => slide.viewerNotes)),
    description: joinedNotes(together.map((slide) => slide.description)),
  }
  return { ...deck, slides: [...deck.slides.slice(0, first), whole, ...deck.slides.slice(first + together.length)] }
}

/** The clips that come with some of a slide's steps, counted from the first of those. @param to the step behind them */
const clipsBetween = ({ clips }: Slide, from: number, to: number): Pick<Slide, 'clips'> =>
  clips === undefined
    ? {}
    : { clips: clips.filter(({ step }) => step >= from && step < to).map((clip) => ({ ...clip, step: clip.step - from })) }

function split(deck: Deck, edit: Extract<DeckEdit, { kind: 'split' }>): Deck {
  known(deck, [edit.slide])
  const at = deck.slides.findIndex((slide) => slide.id === edit.slide)
  const slide = deck.slides[at]
  if (
    slide === undefined ||
    slide.composition !== null ||
    slide.drawing !== undefined ||
    edit.keep < 1 ||
    edit.keep >= slide.steps.length ||
    deck.slides.some((one) => one.id === edit.as)
  ) {
    throw new Refusal('malformed', 'This slide cannot be split there.')
  }
  const kept: Slide = {
    ...withoutProposal(slide),
    version: slide.version + 1,
    steps: slide.steps.slice(0, edit.keep),
    ...clipsBetween(slide, 0, edit.keep),
  }
  const rest: Slide = {
    ...withoutProposal(slide),
    ...clipsBetween(slide, edit.keep, Infinity),
    id: edit.as,
    version: 1,
    section: '',
    notes: '',
    viewerNotes: '',
    description: '',
    planned: null,
    steps: slide.steps.slice(edit.keep),
  }
  return { ...deck, slides: [...deck.slides.slice(0, at), kept, rest, ...deck.slides.slice(at + 1)] }
}

/**
 * Applies a change.
 * @returns a new deck; slides that are not concerned are the same objects
 * @throws Refusal `conflict` when a slide that it names is not there, `malformed` when it cannot be done
 */
export function applyDeckEdit(deck: Deck, edit: DeckEdit): Deck {
  switch (edit.kind) {
    case 'move': {
      const moving = known(deck, edit.slides)
      if (edit.before !== null) known(deck, [edit.before])
      if (edit.before !== null && moving.has(edit.before)) {
        throw new Refusal('malformed', 'Slides cannot be moved before themselves.')
      }
      const moved = deck.slides.filter((slide) => moving.has(slide.id))
      const rest = deck.slides.filter((slide) => !moving.has(slide.id))
      const at = edit.before === null ? rest.length : rest.findIndex((slide) => slide.id === edit.before)
      return { ...deck, slides: [...rest.slice(0, at), ...moved, ...rest.slice(at)] }
    }
    case 'set': {
      const ids = known(deck, edit.slides)
      return { ...deck, slides: deck.slides.map((slide) => (ids.has(slide.id) ? withFields(slide, edit.fields, deck.shape) : slide)) }
    }
    case 'remove': {
      const ids = known(deck, edit.slides)
      return { ...deck, slides: deck.slides.filter((slide) => !ids.has(slide.id)) }
    }
    case 'insert': {
      const present = new Set(deck.slides.map((slide) => slide.id))
      const fresh = edit.slides.filter((slide) => !present.has(slide.id)).map((slide) => redrawn(recomposed(slide, deck.shape)))
      const at = Math.max(0, Math.min(edit.at, deck.slides.length))
      return { ...deck, slides: [...deck.slides.slice(0, at), ...fresh, ...deck.slides.slice(at)] }
    }
    case 'merge':
      return merge(deck, edit)
    case 'split':
      return split(deck, edit)
    case 'shape':
      return {
        shape: edit.shape,
        slides: deck.slides.map((slide) =>
          slide.composition === null ? slide : { ...redrawn(recomposed(slide, edit.shape)), version: slide.version + 1 },
        ),
      }
    case 'all':
      return edit.edits.reduce(applyDeckEdit, deck)
    default:
      return unreachable(edit)
  }
}
