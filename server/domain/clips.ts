import { randomUUID } from 'node:crypto'
import { stat } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { FULL_CONTENT, boxForClip } from '@core/layout'
import { CLIP_GAIN, MOST_CLIPS, PLAIN_FRAMING, Refusal, asId, broughtClips } from '@core/model'
import type { AssetId, Clip, ClipMedia, Rect, Size, Slide, SlideId, WindowView } from '@core/model'
import type { BroughtClip } from '@render/clips'
import type { Queries } from '@server/database'
import { keepFile } from '@server/store'
import { editDeck, insertSlides, lockDeck, putDeck, slideOffDeck, slidesOf, takeUpVersions } from './decks'
import { noteAsset } from './kept-for-talk'
import { JPEG } from './placed-pictures'

/** How clips are kept. */
const MP4 = 'video/mp4'
const M4A = 'audio/mp4'

/** A clip as it is kept, and the small picture of a film for lists. */
export interface KeptClip {
  readonly name: string
  readonly media: ClipMedia
  readonly thumb: AssetId | null
}

async function keepMade(q: Queries, talk: string, path: string, mime: string): Promise<AssetId> {
  const { size } = await stat(path)
  return await noteAsset(q, talk, await keepFile(path), mime, size)
}

/** Keeps a clip that was made, with its pictures. @param folder in which it was made @param name of the file that it was made of */
export async function keepClip(q: Queries, talk: string, folder: string, name: string, made: BroughtClip): Promise<KeptClip> {
  const { length, sound, loudness, picture } = made
  const keep = (file: string, mime: string): Promise<AssetId> => keepMade(q, talk, join(folder, basename(file)), mime)
  const file = await keep(made.file, picture === null ? M4A : MP4)
  if (picture === null) return { name, media: { file, length, picture, sound, loudness }, thumb: null }
  const { poster, thumb, ...rest } = picture
  return {
    name,
    media: { file, length, picture: { ...rest, poster: await keep(poster, JPEG) }, sound, loudness },
    thumb: await keep(thumb, JPEG),
  }
}

/** All of a clip, from its beginning to its end, as loud as speech. */
export const wholeClip = ({ name, media }: KeptClip, more: Pick<Clip, 'box' | 'step' | 'start'> & Partial<Clip>): Clip => ({
  id: asId(randomUUID()),
  name,
  media,
  from: 0,
  to: media.length,
  loop: false,
  gain: CLIP_GAIN.usual,
  ...more,
})

/** Where nothing is seen of a sound, its button still stands somewhere at the Lectern. */
const SOUND_BOX: Rect = { x: 0.44, y: 0.84, w: 0.12, h: 0.12 }
const WHOLE_SLIDE: Rect = { x: 0, y: 0, w: 1, h: 1 }

/** What a slide looks like that a film fills, before that begins; nothing for a sound. */
function stepsOf({ media: { picture }, thumb }: KeptClip): Partial<Pick<Slide, 'steps'>> {
  if (picture === null || thumb === null) return {}
  const { poster, size } = picture
  const drawn = { kind: 'image', source: poster, size, ground: '#000000', screen: poster, thumb } as const
  return { steps: [{ picture: drawn, content: FULL_CONTENT, text: '' }] }
}

/** A slide that is a film, and begins with it. @throws Refusal when there is nothing to be seen of it */
export function filmSlide(kept: KeptClip): Pick<Slide, 'title' | 'steps' | 'clips' | 'framing'> {
  const { steps } = stepsOf(kept)
  if (steps === undefined)
    throw new Refusal('malformed', 'A sound belongs on a slide: drop it on the slide that it is for.', { file: kept.name })
  return {
    title: kept.name.replace(/\.[^.]+$/, ''),
    steps,
    clips: [wholeClip(kept, { box: WHOLE_SLIDE, step: 0, start: 'step' })],
    framing: { ...PLAIN_FRAMING, rect: { x: 0.74, y: 0.7, w: 0.22, h: 0.25 }, off: true },
  }
}

/** Where a clip goes on a slide for which nothing else says so. */
export const freeBox = (slide: Slide, shape: Size, { picture }: ClipMedia): Rect =>
  picture === null ? SOUND_BOX : boxForClip(slide, picture.size, shape)

/** A clip that somebody drops on a slide. */
export const clipDroppedOn = (slide: Slide, shape: Size, kept: KeptClip): Clip =>
  wholeClip(kept, { box: freeBox(slide, shape, kept.media), step: 0, start: 'click' })

/** A clip that is to stand on a slide. @param on the slide as it is */
export interface ClipForSlide {
  readonly slide: SlideId
  readonly clip: (on: Slide, shape: Size) => Clip
}

/**
 * The slides that clips are for, with them.
 * @throws Refusal `too-many` when one would have more than it can
 */
const withClips = (slides: readonly Slide[], shape: Size, clips: readonly ClipForSlide[]): readonly Slide[] =>
  slides.flatMap((slide) => {
    const own = clips.filter((one) => one.slide === slide.id)
    if (own.length === 0) return []
    const after = own.reduce((on, { clip }) => ({ ...on, clips: [...(on.clips ?? []), clip(on, shape)] }), slide)
    if (broughtClips(after).length > MOST_CLIPS)
      throw new Refusal('too-many', `A slide takes up to ${String(MOST_CLIPS)} clips. Take one off it, and bring this one again.`)
    return [after]
  })

/**
 * Puts clips on slides of a talk, those that are still in its deck, as one change of it. In one transaction.
 * @throws Refusal `too-many` when a slide would have more than it can
 */
export async function putClips(q: Queries, talk: string, clips: readonly ClipForSlide[]): Promise<void> {
  if (clips.length === 0) return
  const { revision, shape } = await lockDeck(q, talk)
  const after = withClips(await slidesOf(q, talk), shape, clips)
  if (after.length === 0) return
  const edits = after.map(({ id, clips: own = [] }) => ({ kind: 'set', slides: [id], fields: { clips: own } }) as const)
  await editDeck(q, talk, revision, { kind: 'all', edits })
}

/**
 * Puts clips on slides that wait beside a talk's deck: nobody has seen them, so they stay in the version that they have.
 * @throws Refusal `too-many` when a slide would have more than it can
 */
export async function putClipsBeside(q: Queries, beside: readonly Slide[], shape: Size, clips: readonly ClipForSlide[]): Promise<void> {
  for (const { id, clips: own } of withClips(beside, shape, clips))
    await q
      .updateTable('slide_version')
      .set({ clips: JSON.stringify(own) })
      .where('slide', '=', id)
      .execute()
}

/**
 * Puts what was recorded of a window on its slide, on the deck or off it, which looks like the window from then on; one that is there
 * already stays. In one transaction.
 */
export async function addCaptured(q: Queries, talk: string, { clip: id, slide: on }: WindowView, kept: KeptClip): Promise<void> {
  const { revision, shape } = await lockDeck(q, talk)
  const deck = await slidesOf(q, talk)
  const placed = deck.find((slide) => slide.id === on)
  const slide = placed ?? (await slideOffDeck(q, talk, on))
  if (slide === null || (slide.clips ?? []).some((clip) => clip.id === id)) return
  const clip = wholeClip(kept, { id, box: WHOLE_SLIDE, step: 0, start: 'click', captured: true })
  const after = { ...slide, ...stepsOf(kept), version: slide.version + 1, composition: null, clips: [...(slide.clips ?? []), clip] }
  if (placed !== undefined) {
    await putDeck(q, talk, deck, { shape, slides: deck.map((one) => (one.id === on ? after : one)) }, revision + 1)
    return
  }
  await insertSlides(q, talk, [{ slide: after, position: null }], revision)
  await takeUpVersions(q, talk, [after])
}
