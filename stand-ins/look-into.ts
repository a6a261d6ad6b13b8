import { open } from 'node:fs/promises'
import Joi from 'joi'
import { BOUNDED, run } from '@render/process'

/** What is found in a film by reading it through. */
export interface Found {
  /** By the first bytes: what `Rules.containers` name; null: something else. */
  readonly container: string | null
  readonly video: { readonly codec: string; readonly width: number; readonly height: number; readonly rate: number } | null
  readonly audio: { readonly codec: string } | null
  readonly texts: number
  /** When the last of picture and sound ends, in ms. */
  readonly length: number
}

/** Kinds of the ISO base media file format (ISO/IEC 14496-12, 4.3), by the brand that stands first. */
function isoKind(brand: string): string {
  if (brand === 'qt  ') return 'mov'
  return brand.startsWith('M4A') ? 'm4a' : 'mp4'
}

/** What kind of file it is, by its first bytes. */
async function containerOf(path: string): Promise<string | null> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(4096), 0, 4096, 0)
    const head = buffer.subarray(0, bytesRead).toString('latin1')
    if (head.slice(4, 8) === 'ftyp') return isoKind(head.slice(8, 12))
    // EBML, with the document's type near the beginning (RFC 8794).
    if (head.startsWith('\x1a\x45\xdf\xa3')) return head.slice(0, 64).includes('webm') ? 'webm' : 'mkv'
    if (head.startsWith('RIFF') && head.slice(8, 12) === 'WAVE') return 'wav'
    if (head.startsWith('ID3') || /^\xff[\xe2-\xff]/.test(head)) return 'mp3'
    return null
  } finally {
    await file.close()
  }
}

interface Shown {
  readonly streams: readonly {
    readonly index: number
    readonly codec_type?: string
    readonly codec_name?: string
    readonly width?: number
    readonly height?: number
    readonly avg_frame_rate?: string
    readonly disposition?: { readonly attached_pic?: number }
  }[]
  readonly packets: readonly { readonly stream_index: number; readonly pts_time?: string; readonly duration_time?: string }[]
}
const shown = Joi.object<Shown>({ streams: Joi.array().required(), packets: Joi.array().default([]) }).unknown()

/** What is asked for of each stream and packet. */
const SHOWN =
  'stream=index,codec_type,codec_name,width,height,avg_frame_rate:stream_disposition=attached_pic' +
  ':packet=stream_index,pts_time,duration_time'

const ratio = (text: string): number => {
  const [over, under] = text.split('/').map(Number)
  return (over ?? 0) / (under ?? 1)
}

/** Reads a film through, packet by packet. @throws Error when it cannot be read */
export async function lookInto(path: string): Promise<Found> {
  const { stdout } = await run('ffprobe', [
    ...BOUNDED,
    '-v',
    'error',
    '-protocol_whitelist',
    'file,pipe',
    '-show_entries',
    SHOWN,
    '-of',
    'json',
    path,
  ])
  const { value, error } = shown.validate(JSON.parse(stdout.toString()))
  if (error !== undefined) throw error
  const { streams, packets } = value
  const video = streams.find((one) => one.codec_type === 'video' && one.disposition?.attached_pic !== 1)
  const audio = streams.find((one) => one.codec_type === 'audio')
  const played = new Set([video?.index, audio?.index])
  const ends = packets
    .filter(({ stream_index: index }) => played.has(index))
    .map(({ pts_time: at, duration_time: length }) => (Number(at ?? 0) + Number(length ?? 0)) * 1000)
  return {
    container: await containerOf(path),
    video:
      video === undefined
        ? null
        : {
            codec: video.codec_name ?? '',
            width: video.width ?? 0,
            height: video.height ?? 0,
            rate: ratio(video.avg_frame_rate ?? '0/1'),
          },
    audio: audio === undefined ? null : { codec: audio.codec_name ?? '' },
    texts: streams.filter((one) => one.codec_type === 'subtitle').length,
    length: Math.round(ends.reduce((last, end) => Math.max(last, Number.isFinite(end) ? end : 0), 0)),
  }
}

/** How loud a film is, in LUFS (ITU-R BS.1770-4); null: nothing is heard. */
export async function loudnessOf(path: string): Promise<number | null> {
  const { stderr } = await run('ffmpeg', [
    ...BOUNDED,
    '-hide_banner',
    '-nostats',
    '-protocol_whitelist',
    'file,pipe',
    '-i',
    path,
    '-map',
    '0:a:0',
    '-af',
    'loudnorm=print_format=json',
    '-f',
    'null',
    '-',
  ])
  const figure = Number(/"input_i"\s*:\s*"(-?[\d.]+|-inf)"/.exec(stderr)?.[1])
  return Number.isFinite(figure) && figure > -69 ? figure : null
}
