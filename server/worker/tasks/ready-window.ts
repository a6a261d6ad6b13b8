import { mkdir } from 'node:fs/promises'
import type { Selectable } from 'kysely'
import { Refusal } from '@core/model'
import type { Cue, Ms, WindowView } from '@core/model'
import { makeCaptured, pngSize } from '@render/clips'
import type { BroughtClip, RestingPicture } from '@render/clips'
import { alignPictures, checkRecording } from '@render/probe'
import type { Database, StretchTable } from '@server/database'
import { addCaptured, addCues, bytesOfChunks, keepClip, lengthOfStretch, talkOfTake, windowReady } from '@server/domain'
import type { KeptClip } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { capturedFolder, chunkFolder, facePath, here, rawPath, removeTree, sizeOf, stillPath } from '@server/store'
import type { Claim } from '../claims'
import { putTogether } from '../recordings'

type Stretch = Selectable<StretchTable>

/** A window that rests for less goes on being played: two events would not be worth it, in ms. */
const WORTH_HALTING: Ms = 1000
/** How far into its rest it is halted, in ms. */
const INTO_REST: Ms = 80

/** Full-size pictures of a window, in the time of its clip. @param later how much later than the clip its recording begins, in ms */
async function stillsOf({ id, stills }: Stretch, later: Ms): Promise<readonly RestingPicture[]> {
  const found = Object.entries(stills ?? {}).map(async ([n, { from, until }]) => {
    const path = await here(stillPath(id, Number(n)))
    const size = await pngSize(path).catch(() => null)
    return size === null ? [] : [{ path, size, from: from === 0 ? 0 : from + later, until: until + later }]
  })
  return (await Promise.all(found)).flat().sort((a, b) => a.from - b.from)
}

/** Where the recording begins in itself: its first pictures as the page saw them, else as it said. */
async function offsetOf({ id, offset_picture }: Stretch): Promise<Ms> {
  const measured = (await sizeOf(facePath(id))) === null ? null : await alignPictures(await here(rawPath(id)), await here(facePath(id)))
  return measured ?? offset_picture
}

/**
 * How a window's clip is played in the stretch during which it was shown. While a silent one rests it is halted: what stands still costs
 * nothing in a film.
 */
function cuesOf({ clip, at }: WindowView, { sound, length }: BroughtClip, stills: readonly RestingPicture[]): readonly Cue[] {
  const plays = (place: Ms, playing: boolean): Cue => ({ kind: 'clip', at: at + place, clip, place, playing })
  const rests = sound ? [] : stills.filter(({ from, until }) => until <= length && until - from >= WORTH_HALTING)
  return [
    plays(0, true),
    ...rests.flatMap(({ from, until }) => {
      // More than a picture into its rest, so that the picture that is kept is the one that rests.
      const halt = Math.round(from) + INTO_REST
      return [plays(halt, false), plays(Math.round(until), true)]
    }),
  ]
}

/** What was made of a window, kept, and how it is played. */
interface ReadyWindow {
  readonly talk: string
  readonly kept: KeptClip
  readonly cues: readonly Cue[]
}

/**
 * Makes a clip of what was recorded of a window, and keeps it.
 * @param of the stretch during which it was shown
 * @throws Refusal when there is nothing to be seen in it
 */
async function keptWindow(db: Database, stretch: Stretch, of: string, view: WindowView, claim: Claim): Promise<ReadyWindow> {
  const { id, take } = stretch
  const [count, out] = [stretch.chunks ?? 0, capturedFolder(id)]
  if (count === 0) throw new Refusal('unreadable', 'Nothing was recorded of the window.')
  await putTogether(db, claim, id, count, (await bytesOfChunks(db, id, count)) ?? 0)
  await checkRecording(await here(rawPath(id)))
  const later = view.began - view.at
  const stills = await stillsOf(stretch, later)
  // One that was broken off was shown until the stretch ended, as far as anybody knows.
  const length = stretch.length_ms === null ? (await lengthOfStretch(db, of)) - view.at : stretch.length_ms + later
  const captured = { recording: rawPath(id), offset: (await offsetOf(stretch)) - later, length, stills }
  try {
    await mkdir(out, { recursive: true })
    const made = await makeCaptured(captured, { out, name: `window-${String(claim.number)}`, time: settings().clipTime })
    const talk = await talkOfTake(db, take)
    return { talk, kept: await keepClip(db, talk, out, view.name, made), cues: cuesOf(view, made, stills) }
  } finally {
    await removeTree(out)
  }
}

/**
 * Has what was recorded of a window played where it was shown, as a clip of the window's slide. Can be repeated at any point. What cannot
 * be read is left out: the rest of the take is none the worse for it.
 * @throws ClaimLost when another worker has begun the same
 */
export async function makeWindowReady(db: Database, stretch: Stretch, claim: Claim): Promise<void> {
  const { id, window_view: view, window_of: of } = stretch
  if (view === null || of === null) throw new Error(`not of a window: ${id}`)
  const ready = await keptWindow(db, stretch, of, view, claim).catch((error: unknown) => {
    if (!(error instanceof Refusal)) throw error
    log.warn({ stretch: id, error: error.message }, 'a window cannot be shown')
    return null
  })
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    if (ready !== null) {
      await addCaptured(q, ready.talk, view, ready.kept)
      await addCues(q, of, ready.cues)
    }
    await windowReady(q, id)
  })
  if (ready !== null) await removeTree(chunkFolder(id))
}
