import type { Format } from '@core/model'

/** How sound is stored in a kind of file. */
export interface SoundCodec {
  /** ffmpeg's name of the codec, and arguments for its encoder. */
  readonly name: 'aac' | 'opus' | 'mp3' | 'pcm_s16le'
  readonly encoder: readonly string[]
  /** ffmpeg's name of the format that the sound alone is kept in, and the ending of its file. */
  readonly container: string
  readonly ending: string
  /** Samples in a packet, and samples that the encoder adds at an end and the file counts in. */
  readonly packet: number
  readonly extra: number
  readonly said: string
}

const AAC: SoundCodec = {
  name: 'aac',
  encoder: ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', '128k'],
  container: 'ipod',
  ending: 'm4a',
  packet: 1024,
  extra: 0,
  said: 'AAC-LC, 48 kHz',
}

export const SOUND_CODECS: Readonly<Record<Format, SoundCodec>> = {
  mp4: AAC,
  m4a: AAC,
  // Opus looks 312 samples ahead (RFC 7845, pre-skip), which must fit in as well.
  webm: {
    name: 'opus',
    encoder: ['-c:a', 'libopus', '-b:a', '96k', '-application', 'audio'],
    container: 'webm',
    ending: 'opus.webm',
    packet: 960,
    extra: 312,
    said: 'Opus, 48 kHz',
  },
  // An encoder delay and padding of up to two packets, which not all players take off.
  mp3: {
    name: 'mp3',
    encoder: ['-c:a', 'libmp3lame', '-b:a', '128k'],
    container: 'mp3',
    ending: 'mp3',
    packet: 1152,
    extra: 2304,
    said: 'MP3, 48 kHz',
  },
  wav: {
    name: 'pcm_s16le',
    encoder: ['-c:a', 'pcm_s16le'],
    container: 'wav',
    ending: 'wav',
    packet: 1,
    extra: 0,
    said: 'PCM 16 bit, 48 kHz',
  },
}
