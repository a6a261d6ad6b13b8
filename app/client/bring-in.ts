import type { ComposedPicture, SlideId } from '@core/model'
import type { Tune } from '@core/music'
import type { EntrantView, MusicView, SharedFile, TakePlace } from '@contracts'
import { api } from './api'

/** What can be brought in, for file choosers. */
export const ACCEPTED =
  '.pdf,.pptx,.ppsx,.potx,.pptm,.ppsm,.ppt,.pps,.odp,.otp,' +
  '.png,.jpg,.jpeg,.webp,.md,.markdown,.txt,.zip,application/pdf,image/png,image/jpeg,image/webp,text/markdown,text/plain,' +
  'application/zip,.mp4,.mov,.m4v,.webm,.mkv,.avi,.mpg,.mpeg,.wmv,.gif,video/*,image/gif'
/** Films, moving pictures and sounds that can be clips. */
export const ACCEPTED_CLIPS =
  '.mp4,.mov,.m4v,.webm,.mkv,.avi,.mpg,.mpeg,.wmv,.gif,.webp,' +
  '.mp3,.wav,.m4a,.ogg,.oga,.opus,.flac,.aiff,.wma,video/*,audio/*,image/gif,image/webp'
export const ACCEPTED_PICTURES = '.png,.jpg,.jpeg,.webp,image/png,image/jpeg,image/webp'

function formOf(files: readonly File[]): FormData {
  const form = new FormData()
  for (const file of files) form.append('file', file, file.name)
  return form
}

/** Imports that were begun on this page, and that it has not seen read yet. */
const begun = new Set<string>()

/** @returns whether an import was begun on this page; it is asked once, when it was read */
export const wasBegunHere = (id: string): boolean => begun.delete(id)

/**
 * Sends files to be read into a talk's deck.
 * @param at where its slides go, counted from 0; the end when left out
 * @returns the import's id
 * @throws Refusal when they are not taken
 */
export async function bringIn(talk: string, files: readonly File[], at?: number): Promise<string> {
  const { id } = await api.post<{ id: string }>(`/talks/${talk}/imports${at === undefined ? '' : `?at=${String(at)}`}`, formOf(files))
  begun.add(id)
  return id
}

/** Sends files that are to take the place of a talk's deck, once somebody has looked at them. @throws Refusal when they are not taken */
export async function bringReplacement(talk: string, files: readonly File[]): Promise<void> {
  const { id } = await api.post<{ id: string }>(`/talks/${talk}/imports?replace=1`, formOf(files))
  begun.add(id)
}

/** Sends an archive of a talk, of which a talk is made again. @throws Refusal when it is not taken */
export const bringArchive = (file: File): Promise<{ readonly id: string }> => api.post('/talks/archive', formOf([file]))

/** Sends a finished film of a talk, of which a take is made. @throws Refusal when it is not taken */
export const bringFilm = (talk: string, film: File): Promise<unknown> => api.post(`/talks/${talk}/film`, formOf([film]))

/** Sends films and sounds to be put on a slide. @throws Refusal when they are not taken */
export async function bringClips(talk: string, slide: SlideId, files: readonly File[]): Promise<void> {
  const { id } = await api.post<{ id: string }>(`/talks/${talk}/imports?onto=${slide}`, formOf(files))
  begun.add(id)
}

/** Sends a sound to be music of a talk, or asks for one of the tunes that ship. @throws Refusal when it is not taken */
export const bringMusic = (talk: string, from: File | Tune): Promise<MusicView> =>
  typeof from === 'string'
    ? api.post<MusicView>(`/talks/${talk}/music?tune=${from}`)
    : api.post<MusicView>(`/talks/${talk}/music`, formOf([from]))

/** Sends pictures to be placed on a slide made here. @throws Refusal when one is not taken */
export const bringPictures = (talk: string, files: readonly File[]): Promise<readonly ComposedPicture[]> =>
  api.post(`/talks/${talk}/pictures`, formOf(files))

/** Adds files that those who watch a talk find with it. @throws Refusal when they are not taken */
export const bringAlong = (talk: string, files: readonly File[]): Promise<readonly SharedFile[]> =>
  api.post(`/talks/${talk}/share/files`, formOf(files))

/** Sounds that can be a slide's voice. */
export const ACCEPTED_SOUNDS = '.wav,.mp3,.m4a,.mp4,.ogg,.oga,.opus,.flac,audio/*'

/** Sends a sound file to be a visit's voice; the server reads it and says when it is there. @throws Refusal when it is not taken */
export const bringVoice = (talk: string, visit: string, file: File, { browser, name }: TakePlace): Promise<unknown> =>
  api.post(`/talks/${talk}/voices?${new URLSearchParams({ visit, browser, name }).toString()}`, formOf([file]))

/** What can be handed in that was recorded elsewhere, with what goes along. */
export const ACCEPTED_ENTRIES =
  '.mp4,.mov,.m4v,.webm,.mkv,.m4a,.mp3,.wav,video/*,audio/*,' + '.vtt,.srt,.docx,.odt,.txt,.md,.pdf,.jpg,.jpeg,.png'

/** Hands in files that were recorded elsewhere; the server measures them. @throws Refusal when they are not taken */
export const bringEntry = (talk: string, files: readonly File[]): Promise<EntrantView> =>
  api.post(`/talks/${talk}/entry/files`, formOf(files))
