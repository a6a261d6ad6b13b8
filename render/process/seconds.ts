import type { Ms } from '@core/model'

/** A time as options of `ffmpeg` have it. @param ms of either sign @returns seconds with six digits behind the point */
export const secondsOption = (ms: Ms): string => (ms / 1000).toFixed(6)
