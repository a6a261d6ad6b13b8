import Joi from 'joi'
import { BOUNDED, RECORDING, run } from '@render/process'

export interface Stream {
  readonly codec_type: string
  readonly codec_name: string
  readonly profile?: string
  readonly width?: number
  readonly height?: number
  readonly pix_fmt?: string
  readonly color_space?: string
  readonly color_range?: string
  readonly sample_rate?: string
  readonly r_frame_rate: string
  readonly avg_frame_rate: string
  readonly duration?: string
  readonly nb_read_packets?: string
  readonly disposition?: { readonly attached_pic?: number }
}

export interface Probed {
  readonly streams: readonly Stream[]
  readonly format: {
    readonly duration?: string
    readonly size?: string
    readonly format_name: string
    readonly tags?: { readonly major_brand?: string }
  }
  readonly chapters: readonly { readonly start_time: string; readonly end_time: string; readonly tags?: { readonly title?: string } }[]
}

const shape = Joi.object<Probed>({
  streams: Joi.array()
    .items(Joi.object({ codec_type: Joi.string().required() }).unknown())
    .required(),
  format: Joi.object({ format_name: Joi.string().required() }).unknown().required(),
  chapters: Joi.array().required(),
}).unknown()

/** Reads what a media file holds, counting packets but decoding nothing. Nothing that the file names is opened. */
export const probe = (path: string): Promise<Probed> =>
  probeInput([...BOUNDED, '-v', 'error', '-protocol_whitelist', 'file,pipe', '-count_packets', '-i', path])

/**
 * Reads what an input holds, as far as its head says.
 * @param input options that say what it is and where it lies
 * @param time ms that it may take; left out: as long as usual
 */
export async function probeInput(input: readonly string[], time?: number): Promise<Probed> {
  const wanted = ['-show_streams', '-show_format', '-show_chapters', '-of', 'json']
  const { stdout } = await run('ffprobe', [...input, ...wanted], time === undefined ? {} : { hold: { time } })
  const { value, error } = shape.validate(JSON.parse(stdout.toString()))
  if (error !== undefined) throw new Error(`the probe's answer is not understood: ${error.message}`)
  return value
}

/** `30000/1001` as a number. */
export function ratio(text: string): number {
  const [num, den] = text.split('/').map(Number)
  return (num ?? 0) / (den ?? 1)
}

/**
 * Length of a recording that may have been broken off: when its last packet ends, in ms. The file itself need not say.
 * @returns 0 when nothing in it can be played
 */
export async function lengthOfRecording(path: string): Promise<number> {
  const { stdout } = await run('ffprobe', [
    '-v',
    'quiet',
    ...RECORDING,
    '-select_streams',
    'a:0',
    '-show_entries',
    'packet=pts_time,duration_time',
    '-of',
    'csv=p=0',
    path,
  ]).catch(() => ({ stdout: Buffer.alloc(0) }))
  const last = stdout.toString().trim().split('\n').at(-1) ?? ''
  const [at, length] = last.split(',').map(Number)
  const end = (at ?? 0) + (Number.isFinite(length) ? (length ?? 0) : 0)
  return Number.isFinite(end) ? Math.round(end * 1000) : 0
}
