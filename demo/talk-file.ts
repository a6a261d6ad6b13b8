import type { InkColour, InkPoint, InkWidth, Ms, Said } from '@core/model'

/** A cue of a demo take; slides are named by their place in the deck. */
export type DemoCue =
  | { readonly kind: 'show'; readonly at: Ms; readonly slide: number; readonly step: number }
  | {
      readonly kind: 'ink'
      readonly at: Ms
      readonly slide: number
      readonly colour: InkColour
      readonly width: InkWidth
      readonly points: readonly InkPoint[]
    }

export interface DemoStretch {
  readonly file: string
  readonly length: Ms
  /** The slide it opens on. */
  readonly opening: number
  readonly cues: readonly DemoCue[]
}

/** What is said in the recordings of a demo talk, by their order: `words.json` beside them, as it was heard and put right. */
export type DemoWords = readonly Said[]

/** A demo talk as it ships: `talk.json` beside its deck and recordings. */
export interface DemoTalk {
  readonly name: string
  readonly limit: Ms
  readonly notes: readonly string[]
  /** What slides show, by their place in the deck; empty or left out: nothing that their words do not say. */
  readonly descriptions: readonly string[]
  readonly stretches: readonly DemoStretch[]
}
