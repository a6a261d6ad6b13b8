import { asId, Refusal } from '@core/model'
import type { Piece, Programme, SlideId, StretchId, Take } from '@core/model'
import { applyProgrammeEdit, assetsOver, programmeLength, reasonOf, recordingsOf, useRecording } from '@core/programme'
import type { ChangeReason, HeardStretch, ProgrammeEdit } from '@core/programme'
import { PEAKS_A_SECOND } from '@core/voice'
import type { RecordingView, UseRequest } from '@contracts'
import type { Queries } from '@server/database'
import { loadStretches } from './films'
import { checkAssets } from './kept-for-talk'
import { areStretchesOf } from './ownership'

interface KeptTake extends Take {
  readonly started: Date
  readonly stretches: readonly HeardStretch[]
}

/** Takes of a talk that are kept, each with its stretches; in two questions. */
async function takesOf(q: Queries, talk: string, only?: string): Promise<readonly KeptTake[]> {
  const rows = await q
    .selectFrom('take')
    .innerJoin('stretch', 'stretch.take', 'take.id')
    .select(['take.id', 'take.kind', 'take.started', 'stretch.id as stretch'])
    .where('take.talk', '=', talk)
    .where('take.state', '=', 'closed')
    .where('stretch.state', '=', 'ready')
    .where('stretch.length_ms', '>', 0)
    .$if(only !== undefined, (query) => query.where('take.id', '=', only ?? ''))
    .orderBy('take.started', 'desc')
    .orderBy('stretch.number')
    .execute()
  const stretches = new Map(
    (
      await loadStretches(
        q,
        rows.map((row) => row.stretch),
      )
    ).map((stretch) => [String(stretch.id), stretch]),
  )
  const ids = [...new Set(rows.map((row) => row.id))]
  return ids.flatMap((id) => {
    const own = rows.filter((row) => row.id === id)
    const [first] = own
    return first === undefined
      ? []
      : [
          {
            id: asId<'take'>(id),
            kind: first.kind,
            started: first.started,
            stretches: own.flatMap((row) => stretches.get(row.stretch) ?? []),
          },
        ]
  })
}

/** Every recording of a slide that a talk keeps, the newest take first. */
export async function recordingsOfSlide(q: Queries, talk: string, slide: SlideId): Promise<readonly RecordingView[]> {
  const takes = await takesOf(q, talk)
  const byId = new Map(takes.map((take) => [take.id, take]))
  return recordingsOf(slide, takes).flatMap(({ take: id, pieces }) => {
    const take = byId.get(id)
    const [first] = pieces
    if (take === undefined || first === undefined) return []
    const peaks = new Map(take.stretches.map((stretch) => [stretch.id, stretch.peaks]))
    const parts = pieces.flatMap((piece) =>
      piece.kind === 'still'
        ? []
        : [
            {
              stretch: piece.show.stretch,
              from: piece.show.from,
              to: piece.show.to,
              voice: piece.voice !== null,
              peaks: (peaks.get(piece.show.stretch) ?? []).slice(
                Math.floor((piece.show.from / 1000) * PEAKS_A_SECOND),
                Math.ceil((piece.show.to / 1000) * PEAKS_A_SECOND),
              ),
            },
          ],
    )
    return [
      { take: id, kind: take.kind, started: take.started.toISOString(), showing: first.visit, length: programmeLength({ pieces }), parts },
    ]
  })
}

async function piecesOf(q: Queries, talk: string, take: string, showing: string): Promise<readonly Piece[]> {
  const [found] = await takesOf(q, talk, take)
  if (found === undefined) return []
  const slides = new Set(
    found.stretches.flatMap((stretch) => [
      stretch.opening.slide,
      ...stretch.cues.flatMap((cue) => (cue.kind === 'show' ? [cue.slide] : [])),
    ]),
  )
  return [...slides].flatMap((slide) => recordingsOf(slide, [found])).find(({ pieces }) => pieces[0]?.visit === showing)?.pieces ?? []
}

/** Slides that an edit puts in, with the versions it shows of them. */
function slidesPutIn(edit: ProgrammeEdit): readonly { readonly slide: string; readonly version: number }[] {
  if (edit.kind === 'insert') return [edit]
  return edit.kind === 'all' ? edit.edits.flatMap(slidesPutIn) : []
}

/** Recordings that an edit names. */
function recordingsNamed(edit: ProgrammeEdit): readonly StretchId[] {
  switch (edit.kind) {
    case 'draw':
      return edit.ink.over.kind === 'stretch' ? [edit.ink.over.id] : []
    case 'linger':
      return edit.of === undefined ? [] : [edit.of.stretch]
    case 'voice':
    case 'light':
    case 'backdrop':
      return edit.stretches
    case 'all':
      return edit.edits.flatMap(recordingsNamed)
    default:
      return []
  }
}

/** Files that an edit lays over a talk. */
function assetsOverBy(edit: ProgrammeEdit): readonly string[] {
  switch (edit.kind) {
    case 'overlay':
      return assetsOver({ overlays: [edit.overlay] })
    case 'bed':
      return assetsOver({ beds: [edit.bed] })
    case 'backdrop':
      return edit.backdrop?.kind === 'picture' ? [edit.backdrop.asset] : []
    case 'all':
      return edit.edits.flatMap(assetsOverBy)
    default:
      return []
  }
}

/** What is done to a programme, and what its history says of it. */
export interface ProgrammeChange {
  readonly reason: ChangeReason
  readonly apply: (programme: Programme) => Programme
}

/** A recording taken into the place of a visit. @throws Refusal `not-found` when it is not the talk's */
export async function recordingInPlace(q: Queries, talk: string, { visit, take, showing, name }: UseRequest): Promise<ProgrammeChange> {
  const pieces = await piecesOf(q, talk, take, showing)
  return { reason: { kind: 'use' }, apply: (programme) => useRecording(programme, visit, pieces, name) }
}

/** An edit that a page asks for, its slides held against the deck. @throws Refusal `not-found` when one of them is not the talk's */
export async function editAskedFor(q: Queries, talk: string, edit: ProgrammeEdit): Promise<ProgrammeChange> {
  for (const { slide, version } of slidesPutIn(edit)) {
    const found = await q
      .selectFrom('slide')
      .select('id')
      .where('id', '=', slide)
      .where('talk', '=', talk)
      .where('version', '>=', version)
      .executeTakeFirst()
    if (found === undefined) throw new Refusal('not-found', 'This slide is not in the deck any more.')
  }
  if (!(await areStretchesOf(q, talk, recordingsNamed(edit))))
    throw new Refusal('not-found', "The recording that this is for is not the talk's.")
  await checkAssets(q, talk, assetsOverBy(edit))
  return { reason: reasonOf(edit), apply: (programme) => applyProgrammeEdit(programme, edit) }
}
