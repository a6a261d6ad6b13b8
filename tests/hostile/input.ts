/** Where an input goes in. */
export type Door = 'deck' | 'picture' | 'sound' | 'recording' | 'edit' | 'programme' | 'cues' | 'recipe'

/** Something bad that somebody sends. */
export interface HostileInput {
  /** What it is, for who reads the result; it is the same each time. */
  readonly name: string
  readonly door: Door
  /** Under which name it comes. */
  readonly file: string
  readonly bytes: Buffer
}
