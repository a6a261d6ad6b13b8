import type { DeliveryFacts, Format, Ms, Recipe, Size } from '@core/model'
import type { AudioCodec, Container, VideoCodec } from './rules'

/** What is known of a file that is held against rules: measured in it once it is there, planned before that. */
export interface FileFacts {
  readonly made: boolean
  /** With its ending. */
  readonly name: string
  readonly length: Ms
  readonly bytes: number
  /** By which part of them the bytes may be off; 0 once they are measured. */
  readonly bytesOff: number
  /** null: none that rules can name. */
  readonly container: Container | null
  /** null: there is no picture, or one in a codec that rules cannot name. */
  readonly video: { readonly codec: VideoCodec | null; readonly size: Size; readonly rate: number } | null
  readonly audio: { readonly codec: AudioCodec | null } | null
  /** LUFS; null: nothing is heard. */
  readonly loudness: number | null
  /** Whether there is a track of captions in it. */
  readonly captions: boolean
}

/** What goes with a file that is handed in. */
export interface FileCompany {
  /** BCP 47 tag of the language that captions and transcript are in; null: what is said is not known, so there are none. */
  readonly words: string | null
  /** Of the picture that stands for the talk; null: there is none. */
  readonly cover: Size | null
  /** What was filled in, by key. */
  readonly fields: Readonly<Record<string, string>>
  /** Ms since 1970. */
  readonly now: number
  /** How often it was handed in already. */
  readonly tries: number
}

interface Coding {
  readonly container: Container
  readonly video: VideoCodec | null
  readonly audio: AudioCodec
}
/** How files of each format are stored. */
export const CODINGS: Readonly<Record<Format, Coding>> = {
  mp4: { container: 'mp4', video: 'h264', audio: 'aac' },
  webm: { container: 'webm', video: 'vp9', audio: 'opus' },
  m4a: { container: 'm4a', video: null, audio: 'aac' },
  mp3: { container: 'mp3', video: null, audio: 'mp3' },
  wav: { container: 'wav', video: null, audio: 'pcm' },
}

/** What was measured in a file that was made here. @param name with its ending */
export function factsOfDelivery(name: string, format: Format, facts: DeliveryFacts): FileFacts {
  const coding = CODINGS[format]
  const { bytes, length, width, height, frameRate: rate, loudness, captions = false } = facts
  return {
    made: true,
    name,
    length,
    bytes,
    bytesOff: 0,
    container: coding.container,
    video: coding.video === null ? null : { codec: coding.video, size: { width, height }, rate },
    audio: { codec: coding.audio },
    loudness,
    captions,
  }
}

/** What of a file is reckoned before it is made. */
export interface Reckoned {
  readonly name: string
  readonly length: Ms
  readonly bytes: number
  readonly bytesOff: number
  readonly size: Size
  /** Whether anything is said in the talk that captions can be made of. */
  readonly words: boolean
}

/** What a file by a recipe will be. */
export function plannedFacts(recipe: Recipe, { name, length, bytes, bytesOff, size, words }: Reckoned): FileFacts {
  const coding = CODINGS[recipe.format]
  return {
    made: false,
    name: `${name}.${recipe.format}`,
    length,
    bytes,
    bytesOff,
    container: coding.container,
    video: coding.video === null ? null : { codec: coding.video, size, rate: recipe.rate },
    audio: { codec: coding.audio },
    loudness: recipe.without.voice || recipe.timing === 'planned' ? null : recipe.loudness,
    captions: words && recipe.captions === 'inside' && coding.video !== null,
  }
}
