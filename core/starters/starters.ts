import type { Ms } from '@core/model'
import { MINUTE } from './starter-deck'

export const STARTER_NAMES = ['lesson', 'conference', 'report'] as const
/** Decks to begin a talk from. */
export type StarterName = (typeof STARTER_NAMES)[number]

/** As a person chooses them, and the limit that a talk has then. */
export const STARTERS: Readonly<Record<StarterName, { readonly title: string; readonly limit: Ms }>> = {
  lesson: { title: 'A lesson to be watched at home', limit: 10 * MINUTE },
  conference: { title: 'A conference talk with a strict limit', limit: 12 * MINUTE },
  report: { title: 'A pupil’s report', limit: 5 * MINUTE },
}
