import { open, stat } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import { AUDIO_CODECS, VIDEO_CODECS } from '@core/rules'
import type { Container, FileFacts } from '@core/rules'
import { Refusal } from '@core/model'
import type { Ms } from '@core/model'
import { probeInput, ratio } from '@render/probe'
import type { Probed, Stream } from '@render/probe'
import { ProcessFailed, run } from '@render/process'
import { broughtInput, demuxerOf, measureBrought } from '@render/sound'

/** Bytes in which a Matroska file says what kind it is (RFC 8794, the EBML header). */
const HEADER = 64

const unreadable = (name: string): Refusal =>
  new Refusal('unreadable', `“${name}” is no film or sound that can be read to its end. It may be damaged: play it, and save it once more.`)

/** Whether a Matroska file is a WebM one: its probe does not tell. */
async function isWebm(path: string): Promise<boolean> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEADER), 0, HEADER, 0)
    return buffer.subarray(0, bytesRead).includes('webm')
  } finally {
    await file.close()
  }
}

/** Brands of the ISO base media format by which its kinds are told (ISO/IEC 14496-12, 4.3). */
function isoContainer(brand: string): Container {
  if (brand === 'qt  ') return 'mov'
  return brand.startsWith('M4A') ? 'm4a' : 'mp4'
}

async function containerOf(path: string, demuxer: string, { format }: Probed): Promise<Container | null> {
  switch (demuxer) {
    case 'mov':
      return isoContainer(format.tags?.major_brand ?? '')
    case 'matroska':
      return (await isWebm(path)) ? 'webm' : 'mkv'
    case 'wav':
    case 'mp3':
      return demuxer
    default:
      return null
  }
}

const pictureOf = ({ codec_name: name, width = 0, height = 0, avg_frame_rate: rate }: Stream): FileFacts['video'] => ({
  codec: VIDEO_CODECS.find((codec) => codec === name) ?? null,
  size: { width, height },
  rate: ratio(rate),
})

const soundOf = ({ codec_name: name }: Stream): FileFacts['audio'] => ({
  codec: AUDIO_CODECS.find((codec) => (codec === 'pcm' ? name.startsWith('pcm_') : codec === name)) ?? null,
})

/** When the last packet of a file ends, in ms: what it says of its length need not be so. */
async function lastPacketEnd(input: readonly string[], time: number): Promise<Ms> {
  let end = 0
  let reading = Promise.resolve()
  await run('ffprobe', [...input, '-show_entries', 'packet=pts_time,duration_time', '-of', 'csv=p=0'], {
    hold: { time },
    onOutput: (stream) => {
      reading = (async () => {
        for await (const line of createInterface({ input: stream })) {
          const [at = NaN, length = NaN] = line.split(',').map(Number)
          end = Math.max(end, (Number.isFinite(at) ? at : 0) + (Number.isFinite(length) ? length : 0))
        }
      })()
    },
  })
  await reading
  return Math.round(end * 1000)
}

/**
 * Measures what rules ask of in a film or a sound of anybody's. It is opened by programs that are held to limits, as the kind that its
 * first bytes are of; nothing that it names is opened.
 * @param name what it is called, with its ending
 * @param time ms that each look at it may take
 * @throws Refusal `unreadable`
 */
export async function filmFacts(path: string, name: string, time: number): Promise<FileFacts> {
  const demuxer = await demuxerOf(path)
  if (demuxer === null) throw unreadable(name)
  const input = broughtInput(demuxer, path)
  try {
    const found = await probeInput(input, time)
    // A cover is a stream of pictures as well.
    const video = found.streams.find((stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1)
    const audio = found.streams.find((stream) => stream.codec_type === 'audio')
    if (video === undefined && audio === undefined) throw unreadable(name)
    const said = Math.round(Number(found.format.duration ?? 0) * 1000)
    return {
      made: true,
      name,
      length: Math.max(Number.isFinite(said) ? said : 0, await lastPacketEnd(input, time)),
      bytes: (await stat(path)).size,
      bytesOff: 0,
      container: await containerOf(path, demuxer, found),
      video: video === undefined ? null : pictureOf(video),
      audio: audio === undefined ? null : soundOf(audio),
      loudness: audio === undefined ? null : (await measureBrought(path, demuxer, time)).integrated,
      captions: found.streams.some((stream) => stream.codec_type === 'subtitle'),
    }
  } catch (error) {
    if (error instanceof ProcessFailed) throw unreadable(name)
    throw error
  }
}
