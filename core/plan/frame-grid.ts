import type { Ms } from '@core/model'

/**
 * The film's frame grid: which frame a time falls on. Every boundary is rounded from the film's beginning, so that
 * rounding never adds up.
 * @param at ms from the film's beginning
 * @param fps frames a second
 */
export const frameAt = (at: Ms, fps: number): number => Math.round((at * fps) / 1000)

/** Frames between two places where a player can begin. Segments are joined at such places without encoding again. */
export const GOP_FRAMES = 120

/** When a frame begins, in ms; not whole. */
export const timeOfFrame = (frame: number, fps: number): number => (frame * 1000) / fps

/** What is left of a length of frames that went through a rate and back is no frame of its own. */
const GRAIN = 1e-6

/** The most frames a length of time can need wherever it lies on the grid. */
export const mostFrames = (length: Ms, fps: number): number => Math.ceil((length * fps) / 1000 - GRAIN)
