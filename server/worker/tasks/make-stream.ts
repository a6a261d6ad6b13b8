import { rm } from 'node:fs/promises'
import { renderPlan } from '@core/plan'
import { USUAL_RECIPE } from '@core/model'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { codingOf, joinFilm, makeStreamTrack } from '@render/video'
import type { FileNotes } from '@render/video'
import { database } from '@server/database'
import { STREAM_LINES, WHOLE_LINES, filmOf, streamMade, streamToMake, wantStream } from '@server/domain'
import type { StreamTrack } from '@server/domain'
import { log } from '@server/log'
import { putUnder, removeStream, safeFolder, streamFolder, streamPath, wholeStreamPath } from '@server/store'
import type { Claim } from '../claims'
import { makePictures } from './make-pictures'
import { makeSound } from './make-sound'
import { idleOptions, whileIdle } from './while-idle'
import type { WhileNeeded } from './while-needed'

/** What one version is made with. */
interface Making {
  readonly talk: string
  readonly revision: number
  readonly index: FilmIndex
  readonly label: string
  readonly watch: WhileNeeded
  readonly title: string
  readonly presenter: string
}

type Track = Omit<StreamTrack, 'talk' | 'programme_revision' | 'made'>

/** Makes one size: from the parts that files are made of, so what was made for one is there for the other. */
async function makeTrack(making: Making, lines: (typeof STREAM_LINES)[number]): Promise<Track> {
  const { talk, revision, index, label, watch } = making
  const plan = renderPlan(index, { ...USUAL_RECIPE, lines })
  const parts = await makePictures(index, plan, codingOf('mp4', USUAL_RECIPE.quality, USUAL_RECIPE.bits), watch, idleOptions(label))
  const notes: FileNotes = { title: making.title, artist: making.presenter, chapters: plan.chapters, cover: null }
  const path = streamPath(talk, revision, lines)
  const [pictures, stream, whole] = ['pictures', 'part', 'whole'].map((kind) => `${path}.${label}.${kind}`) as [string, string, string]
  try {
    const join = { format: 'mp4', parts, notes, captions: null, fps: plan.fps, signal: watch.signal } as const
    await joinFilm({ ...join, sound: null, out: pictures })
    const track = await makeStreamTrack(pictures, stream)
    if (lines === WHOLE_LINES) {
      const sound = await makeSound(plan, label, watch.signal)
      await joinFilm({ ...join, sound: sound.file, out: whole })
      await putUnder(whole, wholeStreamPath(talk, revision))
    }
    await putUnder(stream, path)
    return { ...track, lines, width: plan.frame.width, height: plan.frame.height, frame_rate: plan.fps }
  } finally {
    const left = [pictures, stream, whole].flatMap((file) => [file, `${file}.chapters`])
    await Promise.all(left.map((file) => rm(file, { force: true })))
  }
}

/** Makes a talk that is shown to others as a film of several sizes, while nobody needs the machine. */
export async function makeStreamTask(talk: string, claim: Claim): Promise<void> {
  const db = database()
  const wanted = await streamToMake(db, talk)
  if (wanted === null) return
  const { revision, name: title, presenter } = wanted
  await whileIdle(
    talk,
    () => wantStream(db, talk),
    async (watch) => {
      const index = indexFilm(await filmOf(db, talk, revision))
      await safeFolder(streamFolder(talk))
      const making: Making = { talk, revision, index, label: `stream.${String(claim.number)}`, watch, title, presenter }
      const tracks: Track[] = []
      for (const lines of STREAM_LINES) tracks.push(await makeTrack(making, lines))
      const old = await db.transaction().execute(async (q) => {
        await claim.stillHeld(q)
        return await streamMade(q, talk, revision, tracks)
      })
      for (const one of old) await removeStream(talk, one, STREAM_LINES)
      log.info({ talk, revision }, 'made for those who watch')
    },
  )
}

/** It can be watched all the same. */
export const makeStreamGivenUp = (): Promise<void> => Promise.resolve()
