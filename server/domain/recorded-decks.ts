import { randomUUID } from 'node:crypto'
import { asId } from '@core/model'
import type { Cue, Ms, SlideId, Snapshot } from '@core/model'
import { recordedStretch } from '@core/office'
import type { ReadRecording } from '@render/deck'
import type { Queries } from '@server/database'
import { rawPath, safeFolder, stretchFolder } from '@server/store'
import type { StagedFile } from '@server/store'
import { tell } from './events'
import { addJob } from './jobs'
import { currentProgramme } from './programmes'
import { roomForTake } from './quotas'
import { NOT_READ_YET } from './stretches'

/** What was recorded on a slide of a deck that was brought in. */
export interface RecordedSlide {
  readonly slide: SlideId
  readonly recording: ReadRecording
  /** Its voice, with the camera if there is one; null: it has timings only. */
  readonly voice: StagedFile | null
}

/** A stretch of a take that was recorded elsewhere. */
export interface BroughtStretch {
  readonly opening: Snapshot
  readonly cues: readonly Cue[]
  readonly camera: boolean
  readonly length: Ms
  /** Its voice, with the camera if there is one; null: it has timings only. */
  readonly voice: StagedFile | null
}

/** A stretch of a take, whose recording lies where recordings do. */
async function addStretch(
  q: Queries,
  take: string,
  number: number,
  { opening, cues, camera, length, voice }: BroughtStretch,
): Promise<void> {
  const stretch = randomUUID()
  await safeFolder(stretchFolder(stretch))
  await voice?.putUnder(rawPath(stretch))
  await q
    .insertInto('stretch')
    .values({
      id: stretch,
      take,
      number,
      camera,
      voice: voice !== null,
      mime: camera ? 'video/webm;codecs=vp8,opus' : 'audio/webm;codecs=opus',
      opening: JSON.stringify(opening),
      length_ms: length,
      chunks: voice === null ? 0 : 1,
      cues: cues.length,
      state: 'closing',
      ...NOT_READ_YET,
    })
    .execute()
  if (cues.length > 0)
    await q
      .insertInto('cue')
      .values(cues.map((cue, n) => ({ stretch, n, cue: JSON.stringify(cue) })))
      .execute()
}

/**
 * Makes a take of what an import brought: the talk's recording where it has none, else it goes to its end. It is finished by a job like
 * any other. In one transaction.
 * @throws Refusal when the talk can have no more takes
 */
export async function takeOfImport(
  q: Queries,
  { id, talk }: { readonly id: string; readonly talk: string },
  stretches: readonly BroughtStretch[],
): Promise<void> {
  await roomForTake(q, talk)
  const { pieces } = await currentProgramme(q, talk)
  const take = randomUUID()
  await q
    .insertInto('take')
    .values({
      id: take,
      talk,
      kind: 'full',
      intent: JSON.stringify({ kind: pieces.length === 0 ? 'replaceAll' : 'append' }),
      state: 'closing',
      sentence: null,
      discarded: null,
      place: null,
    })
    .execute()
  for (const [number, stretch] of stretches.entries()) await addStretch(q, take, number, stretch)
  await q.updateTable('import').set({ take }).where('id', '=', id).execute()
  await addJob(q, 'finish-take', { take }, `finish-take:${take}`)
  await tell(q, { talk, kind: 'take', id: take })
}

const toStretch = ({ slide, recording, voice }: RecordedSlide): BroughtStretch => {
  const { camera, shown, states } = recording
  const stretch = recordedStretch(slide, states, recording, { camera, length: shown, newId: () => asId(randomUUID()) })
  return { ...stretch, camera, length: shown, voice }
}

/**
 * Makes a take of what was recorded on the slides of a deck, only once for each import. In one transaction.
 * @throws Refusal when the talk can have no more takes
 */
export async function takeOfDeck(q: Queries, id: string, slides: readonly RecordedSlide[]): Promise<void> {
  const { talk, take: before } = await q
    .selectFrom('import')
    .select(['talk', 'take'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirstOrThrow()
  if (before === null && slides.length > 0) await takeOfImport(q, { id, talk }, slides.map(toStretch))
}
