import { open, stat } from 'node:fs/promises'
import { AUDIO_CODECS, VIDEO_CODECS } from '@core/rules'
import type { Container, FileFacts } from '@core/rules'
import { measureFile } from '@render/sound'
import { probe, ratio } from '@render/probe'
import type { Probed, Stream } from '@render/probe'

/** Bytes in which a Matroska file says what kind it is (RFC 8794, the EBML header). */
const HEADER = 64

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

async function containerOf(path: string, { format }: Probed): Promise<Container | null> {
  const names = format.format_name.split(',')
  if (names.includes('mp4')) return isoContainer(format.tags?.major_brand ?? '')
  if (names.includes('webm')) return (await isWebm(path)) ? 'webm' : 'mkv'
  if (names.includes('wav')) return 'wav'
  return names.includes('mp3') ? 'mp3' : null
}

const pictureOf = ({ codec_name: name, width = 0, height = 0, avg_frame_rate: rate }: Stream): FileFacts['video'] => ({
  codec: VIDEO_CODECS.find((codec) => codec === name) ?? null,
  size: { width, height },
  rate: ratio(rate),
})

const soundOf = ({ codec_name: name }: Stream): FileFacts['audio'] => ({
  codec: AUDIO_CODECS.find((codec) => (codec === 'pcm' ? name.startsWith('pcm_') : codec === name)) ?? null,
})

const toMs = (seconds: string | undefined): number => Math.round(Number(seconds ?? 0) * 1000)

/**
 * Measures what rules ask of in a film of anybody's. It is read and decoded: call it in a process that may die.
 * @param name what it is called, with its ending
 * @throws Error when it cannot be read
 */
export async function factsOfFile(path: string, name: string): Promise<FileFacts> {
  const found = await probe(path)
  // A cover is a stream of pictures as well.
  const video = found.streams.find((stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1)
  const audio = found.streams.find((stream) => stream.codec_type === 'audio')
  return {
    made: true,
    name,
    length: Math.max(toMs(found.format.duration), toMs(video?.duration), toMs(audio?.duration)),
    bytes: (await stat(path)).size,
    bytesOff: 0,
    container: await containerOf(path, found),
    video: video === undefined ? null : pictureOf(video),
    audio: audio === undefined ? null : soundOf(audio),
    loudness: audio === undefined ? null : (await measureFile(path)).integrated,
    captions: found.streams.some((stream) => stream.codec_type === 'subtitle'),
  }
}
