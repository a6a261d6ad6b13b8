import { AS_RECORDED } from '@core/model'
import type { Bed, Ms } from '@core/model'
import { placedBeds } from '@core/programme'
import type { Placed } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import { clipGain, clipParts, voiceLoudness } from './clip-sound'
import type { ClipPart } from './clip-sound'
import type { Fade } from './fade'

/** Where music begins again its end and its beginning are heard together for so long, or for this share of short music. */
const OVERLAP: Ms = 900
const OVERLAP_SHARE = 0.2
/** It comes and goes within this, even where no fade is wished for: no step is heard. */
const LEAST_FADE: Ms = 12

/** One time that music is played from its file, in the film's time; it may have begun before the film does. */
interface Pass {
  readonly at: Ms
  readonly length: Ms
  /** Where in the file it begins. */
  readonly from: Ms
  /** Whether another comes before it, and behind it. */
  readonly joins: boolean
  readonly joined: boolean
}

const overlapOf = ({ from, media }: Pick<Bed, 'from' | 'media'>): Ms => Math.min(OVERLAP, (media.length - from) * OVERLAP_SHARE)

/** The times that music is played from its file. Each overlaps with the next. */
function passesOf({ hung: bed, from, to }: Placed<Bed>): readonly Pass[] {
  const whole = bed.media.length - bed.from
  if (!bed.repeat) return [{ at: from, length: Math.min(whole, to - from), from: bed.from, joins: false, joined: false }]
  const stride = whole - overlapOf(bed)
  const passes: Pass[] = []
  for (let at = from; at < to; at += stride) {
    const last = at + whole >= to
    // One that was over before the film begins is not heard.
    if (at + whole > 0) passes.push({ at, length: last ? to - at : whole, from: bed.from, joins: at > from, joined: !last })
    if (last) break
  }
  return passes
}

/** How long a bed is heard: as long as it is wished for, or as its file lasts. */
export const bedEnd = ({ hung, from, to }: Placed<Bed>): Ms => (hung.repeat ? to : Math.min(to, from + hung.media.length - hung.from))

function fadesOf(bed: Placed<Bed>, pass: Pass): readonly Fade[] {
  const overlap = overlapOf(bed.hung)
  const [end, over] = [bedEnd(bed), pass.at + pass.length]
  return [
    { from: bed.from, to: bed.from + Math.max(LEAST_FADE, bed.hung.fadeIn) },
    { from: end, to: end - Math.max(LEAST_FADE, bed.hung.fadeOut) },
    ...(pass.joins ? [{ from: pass.at, to: pass.at + overlap }] : []),
    ...(pass.joined ? [{ from: over, to: over - overlap }] : []),
  ]
}

const toMicroseconds = (at: Ms): Ms => Math.round(at * 1000) / 1000

function partOf(bed: Placed<Bed>, pass: Pass, voice: number | null): ClipPart {
  const { media, gain, instead } = bed.hung
  return {
    at: toMicroseconds(pass.at),
    length: toMicroseconds(pass.length),
    file: media.file,
    from: pass.from,
    to: pass.from + pass.length,
    playbackRate: AS_RECORDED,
    gain: clipGain(media.loudness, gain, voice),
    voice,
    music: { fades: fadesOf(bed, pass).map(({ from, to }) => ({ from: toMicroseconds(from), to: toMicroseconds(to) })), instead },
  }
}

/** What is heard of a film's music, in order of its beginning. */
export function bedParts(index: FilmIndex): readonly ClipPart[] {
  const voice = voiceLoudness(index)
  return placedBeds(index.film.programme)
    .flatMap((bed) => passesOf(bed).map((pass) => partOf(bed, pass, voice)))
    .sort((a, b) => a.at - b.at)
}

/** What is heard of a film besides its voices: clips and music, in order of its beginning. */
export const partsBesideVoice = (index: FilmIndex): readonly ClipPart[] =>
  [...clipParts(index), ...bedParts(index)].sort((a, b) => a.at - b.at)
