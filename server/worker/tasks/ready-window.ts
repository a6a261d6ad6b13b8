import { mkdir, rm } from 'node:fs/promises'
import type { Selectable } from 'kysely'
import { Refusal, asId } from '@core/model'
import type { Cue, Ms, WindowView } from '@core/model'
import { makeCaptured, pngSize } from '@render/clips'
import type { BroughtClip, RestingPicture } from '@render/clips'
import { alignPictures, checkRecording } from '@render/probe'
import type { Database, StretchTable } from '@server/database'
import { addCaptured, addCues, bytesOfChunks, lengthOfStretch, talkOfTake, windowReady } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { capturedFolder, chunkFolder, facePath, rawPath, removeTree, sizeOf, stillPath } from '@server/store'
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
    const path = stillPath(id, Number(n))
    const size = await pngSize(path).catch(() => null)
    return size === null ? [] : [{ path, size, from: from === 0 ? 0 : from + later, until: until + later }]
  })
  return (await Promise.all(found)).flat().sort((a, b) => a.from - b.from)
}

/** Where the recording begins in itself: its first pictures as the page saw them, else as it said. */
async function offsetOf({ id, offset_picture }: Stretch): Promise<Ms> {
  const measured = (await sizeOf(facePath(id))) === null ? null : await alignPictures(rawPath(id), facePath(id))
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

/**
 * Makes a clip of what was recorded of a window, puts it on the window's slide and has it played where it was shown. Can be repeated at
 * any point. What cannot be read is left out: the rest of the take is none the worse for it.
 * @throws ClaimLost when another worker has begun the same
 */
export async function makeWindowReady(db: Database, stretch: Stretch, claim: Claim): Promise<void> {
  const { id, take, chunks, window_view: view, window_of: of } = stretch
  const [count, out] = [chunks ?? 0, capturedFolder(id)]
  try {
    if (view === null || of === null || count === 0) throw new Refusal('unreadable', 'Nothing was recorded of the window.')
    await putTogether(db, claim, id, count, (await bytesOfChunks(db, id, count)) ?? 0)
    await checkRecording(rawPath(id))
    const later = view.began - view.at
    const stills = await stillsOf(stretch, later)
    await mkdir(out, { recursive: true })
    // One that was broken off was shown until the stretch ended, as far as anybody knows.
    const length = stretch.length_ms === null ? (await lengthOfStretch(db, of)) - view.at : stretch.length_ms + later
    const captured = { recording: rawPath(id), offset: (await offsetOf(stretch)) - later, length, stills }
    const made = await makeCaptured(captured, { out, name: `window-${String(claim.number)}`, time: settings().clipTime })
    const talk = await talkOfTake(db, take)
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await addCaptured(q, talk, asId(view.slide), { id: view.clip, name: view.name, folder: out, made })
      await addCues(q, of, cuesOf(view, made, stills))
      await windowReady(q, id)
    })
    await removeTree(chunkFolder(id))
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    log.warn({ stretch: id, error: error.message }, 'a window cannot be shown')
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await windowReady(q, id)
    })
  } finally {
    await rm(out, { recursive: true, force: true })
  }
}
