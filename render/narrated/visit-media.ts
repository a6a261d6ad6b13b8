import { coverCrop } from '@core/paint'
import { run, secondsOption } from '@render/process'
import { evenPixels } from '@core/model'
import type { Framing, Ms, Size } from '@core/model'

/** A part of a talk's voice, and of its face. */
export interface VisitMedia {
  /** The whole voice, as WAVE. */
  readonly voice: string | null
  /** The whole face, filling the picture; null: it is not seen. */
  readonly face: { readonly file: string; readonly size: Size; readonly framing: Framing; readonly shown: Size } | null
  readonly start: Ms
  readonly length: Ms
  readonly out: string
  readonly signal: AbortSignal
}

/** Width of a face on a slide of an office deck at most, in pixels. */
const MOST_FACE = 640

const part = (file: string, start: Ms, length: Ms): readonly string[] => [
  ...['-protocol_whitelist', 'file,pipe', '-ss', secondsOption(start), '-t', secondsOption(length), '-i', file],
]

function cropOf({ size, framing, shown }: NonNullable<VisitMedia['face']>): string {
  const { x, y, width, height } = coverCrop(size, shown, framing)
  const scale = Math.min(1, MOST_FACE / width)
  const even = (value: number): string => String(evenPixels(value * scale))
  const cut = `crop=${String(width)}:${String(height)}:${String(x)}:${String(y)},scale=${even(width)}:${even(height)}`
  return framing.mirrored ? `${cut},hflip` : cut
}

/** The first picture of what was cut, as PNG. */
export async function firstPicture(file: string, signal: AbortSignal): Promise<Buffer> {
  const only = ['-protocol_whitelist', 'file,pipe', '-f', 'mov', '-i', file]
  const one = ['-an', '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', 'pipe:1']
  return (await run('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-nostats', ...only, ...one], { signal })).stdout
}

/** Cuts the voice of a showing, with the face where it is seen: AAC, and H.264, in MP4. */
export async function cutVisitMedia({ voice, face, start, length, out, signal }: VisitMedia): Promise<void> {
  const pictures =
    face === null
      ? ['-vn']
      : ['-map', '0:v', '-vf', cropOf(face), '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '23', '-pix_fmt', 'yuv420p']
  const sound = voice === null ? ['-an'] : ['-map', face === null ? '0:a' : '1:a', '-ac', '1', '-c:a', 'aac', '-b:a', '96k']
  await run(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-nostats'],
      ...(face === null ? [] : part(face.file, start, length)),
      ...(voice === null ? [] : part(voice, start, length)),
      ...[...pictures, ...sound, '-map_metadata', '-1', '-movflags', '+faststart', '-f', 'mp4', '-y', out],
    ],
    { signal },
  )
}
