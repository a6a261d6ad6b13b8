import type { OverlayKind } from '@core/model'
import type { InkChange, ChangeReason } from '@core/programme'

const INK: Readonly<Record<InkChange['kind'], string>> = {
  delete: 'deleted ink',
  colour: 'recoloured ink',
  shift: 'moved ink in time',
}

const OVER: Readonly<Record<OverlayKind, string>> = {
  card: 'set a card',
  'lower-third': 'set a name over the talk',
  text: 'set words over the talk',
  picture: 'set a picture over the talk',
}

type Plain = Exclude<ChangeReason['kind'], 'cut' | 'framing' | 'ink' | 'overlay' | 'voice'>
const WORDS: Readonly<Record<Plain, string>> = {
  drop: 'cut a slide',
  reopen: 'opened a cut again',
  move: 'moved a slide',
  repeat: 'repeated a slide',
  tempo: 'changed the tempo',
  hold: 'changed how long a slide is held',
  hush: 'took the voice off a slide',
  linger: 'held a slide for longer',
  looked: 'looked at slides that had changed',
  insert: 'put in a slide',
  captions: 'changed the look of captions',
  draw: 'drew ink',
  bed: 'set music',
  light: 'changed the light of the face',
  backdrop: 'changed what is seen behind the face',
  bare: 'took something off',
  all: 'fitted the talk',
  use: 'took another recording of a slide',
  take: 'recorded a take',
  discard: 'discarded a take',
  'bring-back': 'brought back a take',
  slides: 'slides changed',
  return: 'went back to an earlier version',
  other: 'changed the talk',
}

/** What a change was, in a few words that begin small. */
export function changeReason(reason: ChangeReason): string {
  switch (reason.kind) {
    case 'cut':
      return reason.parts === 1 ? 'cut a part' : `cut ${String(reason.parts)} parts`
    case 'framing':
      return reason.off ? 'took the face off' : 'moved the face'
    case 'ink':
      return INK[reason.change]
    case 'overlay':
      return OVER[reason.of]
    case 'voice':
      return reason.off ? 'left a voice as recorded' : 'tidied a voice'
    default:
      return WORDS[reason.kind]
  }
}
