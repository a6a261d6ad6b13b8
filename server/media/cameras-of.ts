import type { Ms, NewBackdrop } from '@core/model'
import { TELEVISION } from '@render/filters'
import { probe, recordedColours } from '@render/probe'
import type { CameraFile } from '@render/video'
import { here, recordingPath } from '@server/store'

/** The recording of a face: how large it is, how its colours are to be read, and how long it is. */
export async function cameraOf(stretch: string): Promise<CameraFile & { readonly length: Ms }> {
  const path = await here(recordingPath(stretch))
  const { streams, format } = await probe(path)
  const video = streams.find((stream) => stream.codec_type === 'video')
  const size = { width: video?.width ?? 2, height: video?.height ?? 2 }
  const length = Math.round(Number(format.duration ?? 0) * 1000) || 0
  return { kind: 'recording', path, size, colours: video === undefined ? TELEVISION : recordedColours(video), length }
}

/** Finds the camera of a recording, as it was filmed or with a backdrop. */
export type FindCamera = (stretch: string, backdrop?: NewBackdrop) => Promise<CameraFile>

/**
 * Finds cameras; each recording is looked at once.
 * @param filmOf makes the film of a recording with a backdrop, or finds it made
 */
export function camerasOf(filmOf: (stretch: string, backdrop: NewBackdrop) => Promise<string>): FindCamera {
  const known = new Map<string, Promise<CameraFile>>()
  return async (stretch, backdrop) => {
    const found = known.get(stretch) ?? cameraOf(stretch)
    known.set(stretch, found)
    const camera = await found
    return backdrop === undefined ? camera : { kind: 'film', path: await filmOf(stretch, backdrop), size: camera.size, colours: TELEVISION }
  }
}
