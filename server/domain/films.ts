import { group } from 'd3'
import { asId } from '@core/model'
import type { Film, Programme, Size, Slide, StretchId } from '@core/model'
import type { HeardStretch } from '@core/programme'
import { stretchesOf } from '@core/scene'
import type { FilmView } from '@contracts'
import type { Queries } from '@server/database'
import { slidesAsShown } from './decks'
import { programmeAt } from './programme-differences'
import { currentProgramme } from './programmes'

/** Every stretch that a programme names, also in what was cut and can be opened again. */
export const stretchIdsOf = (programme: Programme): readonly StretchId[] => [...new Set(programme.pieces.flatMap(stretchesOf))]

/** Recorded stretches with their cues, in the order that is asked for and in two questions whatever their number. */
export async function loadStretches(q: Queries, ids: readonly string[]): Promise<readonly HeardStretch[]> {
  if (ids.length === 0) return []
  const [rows, cues] = await Promise.all([
    q
      .selectFrom('stretch')
      .select(['id', 'length_ms', 'kept_ms', 'camera', 'voice', 'opening', 'peaks', 'loudness', 'camera_lost_ms', 'timing'])
      .where('id', 'in', [...ids])
      .execute(),
    q
      .selectFrom('cue')
      .select(['stretch', 'cue'])
      .where('stretch', 'in', [...ids])
      .orderBy('stretch')
      .orderBy('n')
      .execute(),
  ])
  const byStretch = group(cues, (cue) => cue.stretch)
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids
    .flatMap((id) => byId.get(id) ?? [])
    .map((row) => ({
      id: asId(row.id),
      length: row.length_ms ?? 0,
      kept: Math.min(row.kept_ms ?? row.length_ms ?? 0, row.length_ms ?? 0),
      camera: row.camera,
      voice: row.voice,
      opening: row.opening,
      cues: (byStretch.get(row.id) ?? []).map((cue) => cue.cue).sort((a, b) => a.at - b.at),
      peaks: row.peaks ?? [],
      loudness: row.loudness,
      cameraLost: row.camera_lost_ms,
      timing: row.timing,
    }))
}

/** All that a talk's film consists of. */
interface FilmParts {
  readonly programme: Programme
  readonly shape: Size
  readonly slides: readonly Slide[]
  readonly stretches: readonly HeardStretch[]
}

async function partsOf(q: Queries, talk: string, revision?: number): Promise<FilmParts> {
  const programme = revision === undefined ? await currentProgramme(q, talk) : await programmeAt(q, talk, revision)
  const [{ shape }, slides, stretches] = await Promise.all([
    q.selectFrom('talk').select('shape').where('id', '=', talk).executeTakeFirstOrThrow(),
    slidesAsShown(q, talk, programme.slides),
    loadStretches(q, stretchIdsOf(programme)),
  ])
  return { programme, shape, slides, stretches }
}

/** A talk's film. @param revision of the programme; the current one when left out */
export async function filmOf(q: Queries, talk: string, revision?: number): Promise<Film> {
  const { programme, shape, slides, stretches } = await partsOf(q, talk, revision)
  return {
    programme,
    shape,
    slides: new Map(slides.map((slide) => [slide.id, slide])),
    stretches: new Map(stretches.map((stretch) => [stretch.id, stretch])),
  }
}

/** A talk's film as it travels to a page. @param revision as of `filmOf` */
export async function filmView(q: Queries, talk: string, revision?: number): Promise<FilmView> {
  const { stretches, ...parts } = await partsOf(q, talk, revision)
  return {
    ...parts,
    stretches: stretches.map(({ peaks: _, timing: __, ...stretch }) => stretch),
    peaks: Object.fromEntries(stretches.map((stretch) => [stretch.id, stretch.peaks])),
  }
}
