import { createHash } from 'node:crypto'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { SOUND_MARGIN } from '@core/screening'
import type { FaceMediaPart, SoundPart } from '@core/screening'
import { unreachable } from '@core/model'
import type { Size } from '@core/model'
import { contentOfFacePart, contentOfSoundPart, makeFacePart, makeSoundPart } from '@render/screening'
import type { SoundTreatment } from '@render/screening'
import { assetHere, segmentFolder } from '@server/store'
import { backdropFilm } from './backdrop-films'
import { camerasOf } from './cameras-of'
import { CacheMaker } from './made-in-cache'
import { readyVoices, voiceFile } from './treated-voices'

/** Something of a screening that players are sent: parts of its sound and its face, and what stands before those. */
export type ScreeningMedia =
  | { readonly kind: 'sound'; readonly part: SoundPart; readonly treatment: SoundTreatment }
  | { readonly kind: 'face'; readonly part: FaceMediaPart; readonly size: Size }
  | { readonly kind: 'sound-header' }
  | { readonly kind: 'face-header'; readonly size: Size }

/** A second of nothing, for the headers, which are the same whatever follows. */
const NO_SOUND: SoundPart = { n: 0, packets: 1, margin: SOUND_MARGIN, heard: [], clips: [] }
const NO_FACE: FaceMediaPart = { n: 0, frames: 1, seen: [] }
const AS_IT_IS: SoundTreatment = { gain: 0 }

const FILES = { voiceOf: voiceFile, clipOf: assetHere } as const

function contentOf(media: ScreeningMedia): string {
  switch (media.kind) {
    case 'sound':
      return contentOfSoundPart(media.part, media.treatment)
    case 'face':
      return contentOfFacePart(media.part, media.size)
    case 'sound-header':
      return contentOfSoundPart(NO_SOUND, AS_IT_IS)
    case 'face-header':
      return contentOfFacePart(NO_FACE, media.size)
    default:
      return unreachable(media)
  }
}

const isHeader = ({ kind }: ScreeningMedia): boolean => kind === 'sound-header' || kind === 'face-header'

/** The name of a file for players: it says all that decides its bytes, so they never change. */
export const nameOfMedia = (media: ScreeningMedia): string =>
  `${createHash('sha256').update(contentOf(media)).digest('hex')}.${isHeader(media) ? 'mp4' : 'm4s'}`

async function bytesOf(media: ScreeningMedia): Promise<Buffer> {
  switch (media.kind) {
    case 'sound':
      await readyVoices(media.part.heard)
      return (await makeSoundPart(media.part, media.treatment, FILES)).part
    case 'face':
      return (await makeFacePart(media.part, media.size, camerasOf(backdropFilm))).part
    case 'sound-header':
      return (await makeSoundPart(NO_SOUND, AS_IT_IS, FILES)).header
    case 'face-header':
      return (await makeFacePart(NO_FACE, media.size, camerasOf(backdropFilm))).header
    default:
      return unreachable(media)
  }
}

const maker = new CacheMaker(2)

/** Where a part of a screening lies; it is made if it is not there. @throws ProcessFailed when its recording cannot be read */
export const screeningFile = (media: ScreeningMedia): Promise<string> =>
  maker.fileAt(join(segmentFolder(), nameOfMedia(media)), async (out) => {
    await writeFile(out, await bytesOf(media))
  })

/** Makes a part that will be asked for, unless somebody waits for another now. */
export async function foreseeFile(media: ScreeningMedia): Promise<void> {
  if (maker.isIdle) await screeningFile(media)
}
