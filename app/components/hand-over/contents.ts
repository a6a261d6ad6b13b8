import type { LeftOut } from '@core/model'

export interface Content {
  readonly value: string
  readonly say: string
  readonly hint: string
  readonly without: LeftOut
}

const ALL: Content = {
  value: 'all',
  say: 'with voice, face and ink',
  hint: 'everything',
  without: { face: false, ink: false, voice: false },
}

/** What can be left out, as words of the recipe's sentence. */
export const CONTENTS: readonly Content[] = [
  ALL,
  { value: 'faceless', say: 'without the face', hint: 'voice, slides and ink', without: { face: true, ink: false, voice: false } },
  { value: 'inkless', say: 'without ink', hint: 'voice, slides and face', without: { face: false, ink: true, voice: false } },
  { value: 'plain', say: 'with slides and voice alone', hint: 'no face and no ink', without: { face: true, ink: true, voice: false } },
  {
    value: 'voiceless',
    say: 'without voice and face',
    hint: 'slides and ink at their times',
    without: { face: true, ink: false, voice: true },
  },
  { value: 'slides', say: 'with slides alone', hint: 'at their times, silent', without: { face: true, ink: true, voice: true } },
]

/** Whether what is said can be read in a file, as the recipe says it. */
export const CAPTIONS = [
  { value: 'inside', say: 'captions inside', hint: 'as a track of text that players switch on' },
  { value: 'drawn', say: 'captions drawn in', hint: 'part of the picture, as Review shows them: for players without a switch' },
  { value: 'none', say: 'no captions', hint: 'they can still be had as a file beside it' },
] as const

/** The words for what is left out. */
export const contentOf = (without: LeftOut): Content =>
  CONTENTS.find((one) => one.without.face === without.face && one.without.ink === without.ink && one.without.voice === without.voice) ?? ALL
