import type { Bed, Overlay, VoiceTreatment } from '@core/model'
import { isUntreated } from '@core/programme'
import { aboveRoom } from '@core/voice'
import type { MeasuredVoice } from '@contracts'

const KINDS: Readonly<Record<Overlay['kind'], string>> = { card: 'Card', 'lower-third': 'Name', text: 'Words', picture: 'Picture' }

/** What something is that lies over a talk. */
export const dressedKind = ({ kind }: Overlay): string => KINDS[kind]

/** What it is called in a list: what it says, or what it is. */
export function dressedName(hung: Overlay | Bed): string {
  if (!('kind' in hung)) return hung.name
  const said = wordsOf(hung).trim()
  return said === '' ? KINDS[hung.kind] : said
}

function wordsOf(overlay: Overlay): string {
  switch (overlay.kind) {
    case 'card':
      return overlay.heading
    case 'lower-third':
      return overlay.name
    case 'text':
      return overlay.text
    case 'picture':
      return overlay.alt
  }
}

const whole = (db: number): string => String(Math.round(db))

/** What else was found in a voice besides its room. */
function foundIn({ hum, rumble, sibilance, level }: VoiceTreatment): readonly string[] {
  return [
    ...(hum === null ? [] : [`something hums at ${hum}`]),
    ...(rumble ? ['it rumbles below any voice'] : []),
    ...(sibilance ? ['its s is harsh'] : []),
    ...(level ? ['some sentences are much softer than others'] : []),
  ]
}

/** What was measured in voices, and what is proposed, in a sentence. */
export function voiceWords(measured: readonly MeasuredVoice[], proposed: VoiceTreatment | null): string {
  const spoken = measured.filter(({ facts }) => facts.speech !== null)
  if (spoken.length === 0) return 'No speech was found in it.'
  const rooms = spoken.flatMap(({ facts }) => aboveRoom(facts) ?? [])
  const room = rooms.length === 0 ? 'The room is silent' : `The room is ${whole(Math.min(...rooms))} dB below speech`
  const found = proposed === null ? [] : foundIn(proposed)
  const nothing = proposed === null || isUntreated(proposed)
  return `${[room, ...found].join('; ')}. ${nothing ? 'Nothing needs to be done.' : 'Tidying takes care of that.'}`
}
