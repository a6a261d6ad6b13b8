import { randomUUID } from 'node:crypto'
import { copyFile, mkdir, readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { asId } from '@core/model'
import type { Cue, Slide, Stroke } from '@core/model'
import { database } from '@server/database'
import {
  beginImport,
  closeStretch,
  createTalk,
  editDeck,
  finishTake,
  keepCues,
  keepSaid,
  keepChunks,
  openStretch,
  openTake,
  orderDelivery,
  slidesOf,
  stageUploads,
  talkView,
} from '@server/domain'
import { digestOf, digestOfFile, uploadFolder } from '@server/store'
import { alone } from '@server/worker/claims'
import { finishTakeTask } from '@server/worker/tasks/finish-take'
import { readDeckTask } from '@server/worker/tasks/read-deck'
import type { DemoCue, DemoStretch, DemoTalk, DemoWords } from '../talk-file'

const CHUNK = 256 * 1024

function toCue(cue: DemoCue, slides: readonly Slide[]): Cue {
  const slide = slides[cue.slide]?.id
  if (slide === undefined) throw new Error(`the demo deck has no slide ${String(cue.slide)}`)
  if (cue.kind === 'show') return { ...cue, slide }
  const stroke: Stroke = { id: asId(randomUUID()), slide, colour: cue.colour, width: cue.width, pressure: false, points: cue.points }
  return { kind: 'ink', at: cue.at, stroke }
}

/** Brings one stretch in the way a page would: chunks, cues, closing. @returns the ink that lies at its end */
async function seedStretch(
  talk: string,
  take: string,
  number: number,
  stretch: DemoStretch,
  folder: string,
  slides: readonly Slide[],
  lying: readonly Stroke[],
): Promise<readonly Stroke[]> {
  const db = database()
  const id = randomUUID()
  const opening = { slide: slides[stretch.opening]?.id ?? asId<'slide'>(''), step: 0, blank: false, inset: true, ink: lying }
  await openStretch(db, id, talk, { take, number, camera: true, voice: true, mime: 'video/webm;codecs=vp8,opus', opening })
  const media = await readFile(join(folder, stretch.file))
  const chunks = Array.from({ length: Math.ceil(media.length / CHUNK) }, (_, n) => media.subarray(n * CHUNK, (n + 1) * CHUNK))
  await keepChunks(
    db,
    id,
    chunks.map((bytes, n) => ({ n, bytes, digest: digestOf(bytes) })),
  )
  const cues = stretch.cues.map((cue) => toCue(cue, slides))
  await keepCues(
    db,
    id,
    cues.map((cue, n) => ({ n, cue })),
  )
  await closeStretch(db, id, { chunks: chunks.length, cues: cues.length, length: stretch.length })
  return [...lying, ...cues.flatMap((cue) => (cue.kind === 'ink' ? [cue.stroke] : []))]
}

/** Notes what is said, so that nobody has to wait for it. */
async function seedWords(talk: string, take: string, folder: string): Promise<void> {
  const db = database()
  // Our own file, as `talk.json` is.
  const words = JSON.parse(await readFile(join(folder, 'words.json'), 'utf8')) as DemoWords
  const stretches = await db.selectFrom('stretch').select('id').where('take', '=', take).orderBy('number').execute()
  for (const [n, { id }] of stretches.entries()) {
    const said = words[n]
    if (said !== undefined) await keepSaid(db, talk, asId(id), { by: 'model', said })
  }
}

/** Puts a demo talk in through the same doors that a presenter's own goes through. */
export async function seedTalk(owner: string, folder: string): Promise<void> {
  const db = database()
  // Our own file, made by demo/make.
  const demo = JSON.parse(await readFile(join(folder, 'talk.json'), 'utf8')) as DemoTalk
  const talk = await createTalk(db, owner, demo.name, demo.limit)
  await db.updateTable('talk').set({ demo: true }).where('id', '=', talk).execute()
  await mkdir(uploadFolder(), { recursive: true })
  const path = join(uploadFolder(), randomUUID())
  await copyFile(join(folder, 'deck.pdf'), path)
  const files = await stageUploads([{ path, name: `${demo.name}.pdf`, bytes: (await stat(path)).size, digest: await digestOfFile(path) }])
  const deck = await beginImport(db, talk, files, {
    place: null,
    onto: null,
    replaces: false,
  })
  await alone('read-deck', deck, readDeckTask)
  const { slides, revision } = await talkView(db, talk)
  await db.transaction().execute((q) =>
    editDeck(q, talk, revision, {
      kind: 'all',
      edits: slides.map((slide, n) => ({
        kind: 'set',
        slides: [slide.id],
        fields: { notes: demo.notes[n] ?? '', description: demo.descriptions[n] ?? '' },
      })),
    }),
  )
  if (demo.stretches.length === 0) return
  const take = randomUUID()
  await openTake(db, talk, take, { kind: 'full', intent: { kind: 'replaceAll' } })
  let lying: readonly Stroke[] = []
  for (const [number, stretch] of demo.stretches.entries())
    lying = await seedStretch(talk, take, number, stretch, folder, await slidesOf(db, talk), lying)
  await finishTake(db, talk, take)
  await alone('finish-take', take, finishTakeTask)
  await seedWords(talk, take, folder)
  const { recipe } = await talkView(db, talk)
  await db.transaction().execute((q) => orderDelivery(q, talk, { ...recipe, lines: 720 }))
}
