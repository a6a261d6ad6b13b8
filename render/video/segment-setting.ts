import { execFileSync } from 'node:child_process'
import type { Size } from '@core/model'
import { encoderArgs, stillArgs } from './encoder'
import type { Coding } from './encoder'

/** Digest of all code and packages that draw and encode segments; put in when a program is bundled. */
declare const SEGMENTS_MADE_BY: string | undefined
const code = typeof SEGMENTS_MADE_BY === 'undefined' ? 'sources' : SEGMENTS_MADE_BY

let encoder: string | undefined
/** The encoder that is installed here, as it names itself. */
const encoderName = (): string => (encoder ??= execFileSync('ffmpeg', ['-version'], { encoding: 'utf8' }).split('\n')[0] ?? '')

/**
 * What all segments of a delivery share, as part of their keys: everything but their content that decides on their pixels, so that a
 * segment which would come out otherwise is made anew.
 * @param size of the picture that is drawn
 * @param frame of the finished one
 * @param fps frames a second
 */
export const settingOf = (size: Size, frame: Size, fps: number, coding: Coding): string =>
  JSON.stringify({
    code,
    encoder: encoderName(),
    size,
    frame,
    rate: fps,
    coding,
    args: [encoderArgs(coding, fps, 1), coding.format === 'mp4' ? stillArgs(coding, fps) : null],
  })
