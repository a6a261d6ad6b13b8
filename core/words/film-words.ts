import { intoSpan } from '@core/programme'
import { heardPieces } from '@core/plan'
import type { Voiced } from '@core/plan'
import { lastNotAfter } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Ms, SlideId, StretchId, VisitId } from '@core/model'
import type { CorrectedSaid, CorrectedWord } from './correct'

/** A word as it is heard in the film. */
export interface FilmWord extends CorrectedWord {
  readonly visit: VisitId
  readonly slide: SlideId
  /** Where it was recorded, in the stretch's time. */
  readonly recorded: { readonly stretch: StretchId; readonly from: Ms; readonly until: Ms }
  /** What was written before it and not said; empty: nothing. */
  readonly unsaid: string
}

/** What was said in a stretch, made ready to be asked for parts of it. */
interface IndexedSaid {
  readonly words: readonly CorrectedWord[]
  /** When each word and all before it have ended. */
  readonly ends: readonly Ms[]
  /** What was not said, by the place of the word that it would stand before. */
  readonly unsaid: ReadonlyMap<number, string>
}

function indexed({ words, unsaid }: CorrectedSaid): IndexedSaid {
  const texts = new Map<number, string>()
  for (const { before, text } of unsaid) texts.set(before, [texts.get(before), text].filter(Boolean).join(' '))
  let end = 0
  return { words, ends: words.map(({ until }) => (end = Math.max(end, until))), unsaid: texts }
}

/** So much of a word must be left that it is still one, of 1. */
const LEFT = 0.5

/** Words that a piece lets be heard. @param start of the piece in the film */
function wordsOfPiece({ voice, visit, slide }: Voiced, start: Ms, { words, ends, unsaid }: IndexedSaid): readonly FilmWord[] {
  const inFilm = (at: Ms): Ms => Math.round(start + intoSpan(voice, Math.min(voice.to, Math.max(voice.from, at))))
  const out: FilmWord[] = []
  for (let place = lastNotAfter(ends, voice.from) + 1; place < words.length; place += 1) {
    const word = words[place]
    if (word === undefined || word.from >= voice.to) break
    const heard = Math.min(word.until, voice.to) - Math.max(word.from, voice.from)
    if (heard < Math.max(1, (word.until - word.from) * LEFT)) continue
    const recorded = { stretch: voice.stretch, from: word.from, until: word.until }
    const before = unsaid.get(place) ?? ''
    out.push({ ...word, from: inFilm(word.from), until: inFilm(word.until), visit, slide, recorded, unsaid: before })
  }
  return out
}

/**
 * The words of a film, in the film's time: those that its pieces let be heard. What was cut, muted or spoken over is not among them; tempo
 * moves them.
 */
export function filmWords(index: FilmIndex, said: ReadonlyMap<StretchId, CorrectedSaid>): readonly FilmWord[] {
  const known = new Map([...said].map(([stretch, one]) => [stretch, indexed(one)]))
  return heardPieces(index).flatMap(({ piece, start }) => {
    const found = known.get(piece.voice.stretch)
    return found === undefined ? [] : wordsOfPiece(piece, start, found)
  })
}
