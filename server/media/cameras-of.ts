import { TELEVISION } from '@render/filters'
import { probe, recordedColours } from '@render/probe'
import type { CameraFile } from '@render/video'
import { recordingPath } from '@server/store'

/** Finds the recordings of faces, how large they are and how their colours are to be read; each is looked at once. */
export function camerasOf(): (stretch: string) => Promise<CameraFile> {
  const known = new Map<string, Promise<CameraFile>>()
  const find = async (stretch: string): Promise<CameraFile> => {
    const path = recordingPath(stretch)
    const video = (await probe(path)).streams.find((stream) => stream.codec_type === 'video')
    const size = { width: video?.width ?? 2, height: video?.height ?? 2 }
    return { path, size, colours: video === undefined ? TELEVISION : recordedColours(video) }
  }
  return (stretch) => {
    const found = known.get(stretch) ?? find(stretch)
    known.set(stretch, found)
    return found
  }
}
