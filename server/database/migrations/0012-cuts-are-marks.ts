import { createHash } from 'node:crypto'
import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Programmes as they were kept before: a cut hung behind a piece and held pieces of its own, and a piece had one rate. */
interface OldSpan {
  readonly stretch: string
  readonly from: number
  readonly to: number
}
interface OldPiece {
  readonly kind: 'recorded' | 'still'
  readonly id?: string
  readonly visit?: string
  readonly slide?: string
  readonly step?: number
  readonly length?: number
  readonly of?: { readonly stretch: string; readonly at: number }
  readonly show?: OldSpan
  readonly voice?: OldSpan | null
  readonly camera?: OldSpan | null
  readonly rate?: { readonly num: number; readonly den: number }
}
interface OldSeam {
  readonly id: string
  readonly after: string | null
  readonly pieces: readonly OldPiece[]
  readonly seams: readonly OldSeam[]
}
interface OldInk {
  readonly visit: string
  readonly stretch: string | null
  readonly at: number
  readonly stroke: unknown
}
export interface OldProgramme {
  readonly pieces: readonly OldPiece[]
  readonly seams?: readonly OldSeam[]
  readonly framings?: Readonly<Record<string, unknown>>
  readonly inkAdded?: readonly OldInk[]
  readonly [other: string]: unknown
}

/** A piece as it is kept from now on, as far as this migration has to know of it. */
interface NewPiece {
  readonly kind: 'recorded' | 'still'
  readonly visit: string
  readonly out?: string
  readonly still?: string
  readonly from?: number
  readonly to?: number
  readonly show?: OldSpan
  readonly [other: string]: unknown
}

/** Longer names of cuts are shortened, the same one always to the same. */
const LONGEST_NAME = 100

const shortName = (name: string): string =>
  name.length <= LONGEST_NAME ? name : `${name.slice(0, 60)}~${createHash('sha256').update(name).digest('hex').slice(0, 16)}`

/** The still that a piece is a part of, and where in it that begins: halves were called after the whole, with where they begin. */
function stillOf(id: string): { readonly still: string; readonly from: number } {
  const parts = /^(.*?)((?:\+\d+)*)$/s.exec(id)
  const from = [...(parts?.[2] ?? '').matchAll(/\+(\d+)/g)].reduce((sum, [, into]) => sum + Number(into), 0)
  return { still: shortName(parts?.[1] ?? id), from }
}

function newPiece(piece: OldPiece, out: string | undefined): NewPiece {
  const { kind, visit = '', slide, step, of } = piece
  const mark = out === undefined ? {} : { out }
  if (kind === 'still') {
    const { still, from } = stillOf(piece.id ?? visit)
    return {
      kind,
      visit,
      slide,
      still,
      from,
      to: from + (piece.length ?? 0),
      step: step ?? 0,
      ...(of === undefined ? {} : { of }),
      ...mark,
    }
  }
  const rate = piece.rate ?? { num: 1, den: 1 }
  const span = (old: OldSpan | null | undefined): OldSpan | null => (old == null ? null : ({ ...old, rate } as OldSpan))
  return {
    kind,
    visit,
    slide,
    show: span(piece.show) ?? undefined,
    voice: span(piece.voice),
    camera: span(piece.camera),
    ...mark,
  } as NewPiece
}

/** Pieces with what was cut between them in its place. @param out the cut that all of them are in */
function flattened(pieces: readonly OldPiece[], seams: readonly OldSeam[], out?: string): readonly NewPiece[] {
  const behind = (after: string | null): readonly NewPiece[] =>
    seams.filter((seam) => seam.after === after).flatMap((seam) => flattened(seam.pieces, seam.seams, shortName(seam.id)))
  return [...behind(null), ...pieces.flatMap((piece) => [newPiece(piece, out), ...(piece.id === undefined ? [] : behind(piece.id))])]
}

const startOf = (piece: NewPiece): number => piece.from ?? piece.show?.from ?? 0

/** Visits that stand in two places are two visits from now on; the one that is played keeps its name. */
function apart(pieces: readonly NewPiece[]): { readonly pieces: readonly NewPiece[]; readonly renamed: ReadonlyMap<string, string> } {
  const runs: NewPiece[][] = []
  for (const piece of pieces) {
    if (runs.at(-1)?.[0]?.visit === piece.visit) runs.at(-1)?.push(piece)
    else runs.push([piece])
  }
  const played = (run: readonly NewPiece[]): boolean => run.some((piece) => piece.out === undefined)
  const keeps = new Map<string, readonly NewPiece[]>()
  for (const run of [...runs.filter(played), ...runs]) {
    const visit = run[0]?.visit ?? ''
    if (!keeps.has(visit)) keeps.set(visit, run)
  }
  const taken = new Set(keeps.keys())
  const renamed = new Map<string, string>()
  const all = runs.map((run) => {
    const [first] = run
    if (first === undefined || keeps.get(first.visit) === run) return run
    let name = `${first.visit}^${String(startOf(first))}`
    for (let n = 2; taken.has(name); n += 1) name = `${first.visit}^${String(startOf(first))}.${String(n)}`
    taken.add(name)
    renamed.set(name, first.visit)
    return run.map((piece) => ({ ...piece, visit: name }))
  })
  return { pieces: all.flat(), renamed }
}

/** Ink on a slide that was held counted from its visit's beginning: it is tied to what it lay on there. */
// eslint-disable-next-line complexity -- what was done to kept talks stays as it was done
function overStill(ink: OldInk, pieces: readonly NewPiece[]): unknown {
  const { visit, at, stroke } = ink
  let start = 0
  let last: NewPiece | undefined
  for (const piece of pieces) {
    if (piece.visit !== visit || piece.out !== undefined) continue
    const length = piece.kind === 'still' ? (piece.to ?? 0) - (piece.from ?? 0) : (piece.show?.to ?? 0) - (piece.show?.from ?? 0)
    if (piece.kind === 'still') {
      last = piece
      if (at < start + length)
        return { visit, over: { kind: 'still', id: piece.still }, at: (piece.from ?? 0) + Math.max(0, at - start), stroke }
    }
    start += length
  }
  const held = last ?? pieces.find((piece) => piece.visit === visit && piece.kind === 'still')
  return {
    visit,
    over: { kind: 'still', id: held?.still ?? shortName(visit) },
    at: held === undefined ? at : Math.max(held.from ?? 0, (held.to ?? 1) - 1),
    stroke,
  }
}

/**
 * A programme in which a cut is a mark on what it took out, every part has its own rate, and added ink is tied to what it was drawn
 * over.
 */
export function withMarks({ seams = [], inkAdded = [], framings = {}, ...programme }: OldProgramme): Record<string, unknown> {
  const { pieces, renamed } = apart(flattened(programme.pieces, seams))
  const own = Object.fromEntries(
    [...renamed].flatMap(([name, visit]) => (framings[visit] === undefined ? [] : [[name, framings[visit]] as const])),
  )
  return {
    inkEdits: [],
    slides: {},
    ...programme,
    pieces,
    framings: { ...framings, ...own },
    inkAdded: inkAdded.map((ink) =>
      ink.stretch === null
        ? overStill(ink, pieces)
        : { visit: ink.visit, over: { kind: 'stretch', id: ink.stretch }, at: ink.at, stroke: ink.stroke },
    ),
  }
}

/** Programmes that are read at a time: some are large. */
const BATCH = 50

interface Row {
  readonly talk: string
  readonly revision: number
  readonly value: OldProgramme
}

async function nextRows(db: Kysely<unknown>, last: Row | null): Promise<readonly Row[]> {
  const after = last === null ? sql`true` : sql`(talk, revision) > (${last.talk}::uuid, ${last.revision}::integer)`
  const { rows } =
    await sql<Row>`select talk, revision, value from programme where ${after} order by talk, revision limit ${BATCH}`.execute(db)
  return rows
}

/**
 * A cut is a mark on the pieces that it took out, which keep their place in the list; each part of a piece has its own rate; ink that
 * was added is tied to the recording or the still that it lies on. Old revisions play as they did, and their cuts open as they did.
 */
export const cutsAreMarks: Migration = {
  async up(db: Kysely<unknown>) {
    let last: Row | null = null
    for (;;) {
      const rows: readonly Row[] = await nextRows(db, last)
      for (const { talk, revision, value } of rows) {
        await sql`update programme set value = ${JSON.stringify(withMarks(value))}::jsonb where talk = ${talk}
          and revision = ${revision}`.execute(db)
      }
      last = rows.at(-1) ?? null
      if (rows.length < BATCH) return
    }
  },
}
