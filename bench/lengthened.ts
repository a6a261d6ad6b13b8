import { randomUUID } from 'node:crypto'
import { link, mkdir, readFile } from 'node:fs/promises'
import { sql } from 'kysely'
import type { Programme } from '@core/model'
import { changeProgramme } from './demo-product'

const ID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g

/** Gives every id in a text another, the same one each time. @param kept what stays as it is */
function renaming(kept: ReadonlySet<string>): (text: string) => string {
  const names = new Map<string, string>([...kept].map((id) => [id, id]))
  return (text) =>
    text.replace(ID, (id) => {
      const name = names.get(id) ?? randomUUID()
      names.set(id, name)
      return name
    })
}

const underOtherNames = <Value>(value: Value, rename: (text: string) => string): Value =>
  // The same value under other names.
  JSON.parse(rename(JSON.stringify(value))) as Value

/** Rows of a table as text. */
async function rowsOf(table: string, column: string, values: readonly string[]): Promise<readonly string[]> {
  const { database } = await import('@server/database')
  const { rows } = await sql<{
    row: string
  }>`select to_jsonb(t)::text as row from ${sql.table(table)} t where ${sql.ref(column)} in (${sql.join(values)})`.execute(database())
  return rows.map(({ row }) => row)
}

/** Puts rows into their tables, all or none: a slide and its version name each other. */
async function putRows(rows: readonly { readonly table: string; readonly row: string }[]): Promise<void> {
  const { database } = await import('@server/database')
  await database()
    .transaction()
    .execute(async (q) => {
      for (const { table, row } of rows)
        await sql`insert into ${sql.table(table)} select * from jsonb_populate_record(null::${sql.table(table)}, ${row}::jsonb)`.execute(q)
    })
}

/**
 * Other files with the same pictures in them: what follows the end of a document or picture is not read.
 * @returns a row in which they are named instead
 */
async function withOtherFiles(row: string, talk: string, n: number): Promise<string> {
  const { assetPath, keepAsset } = await import('@server/store')
  let renamed = row
  for (const digest of new Set([...row.matchAll(/"source": "([0-9a-f]{64})"/g)].map(([, found = '']) => found))) {
    const bytes = Buffer.concat([await readFile(assetPath(digest)), Buffer.from(`\n%${String(n)}\n`)])
    const other = await keepAsset(bytes)
    const { database } = await import('@server/database')
    await database()
      .insertInto('asset')
      .values({ talk, digest: other, mime: 'application/pdf', bytes: bytes.length })
      .onConflict((it) => it.doNothing())
      .execute()
    renamed = renamed.replaceAll(digest, other)
  }
  return renamed
}

/** Copies made so far: none is like another, also when a longer talk is lengthened again. */
let copies = 0
/** The last number of a stretch that was copied. */
let numbers = 1000

/** The same programme once more: slides, recordings and strokes are all others, as far as can be told. */
async function onceMore(talk: string, programme: Programme): Promise<Programme> {
  copies += 1
  const n = copies
  const { recordingPath, stretchFolder, voicePath } = await import('@server/store')
  const slides = Object.keys(programme.slides)
  const stretches = [...new Set(programme.pieces.flatMap((piece) => (piece.kind === 'recorded' ? [piece.show.stretch] : [])))]
  const recorded = await rowsOf('stretch', 'id', stretches)
  const rename = renaming(new Set([talk, ...recorded.map((row) => /"take": "([^"]+)"/.exec(row)?.[1] ?? '')]))
  const rows = async (
    table: string,
    column: string,
    values: readonly string[],
    change: (row: string) => string = (row) => row,
  ): Promise<readonly { readonly table: string; readonly row: string }[]> =>
    (await rowsOf(table, column, values)).map((row) => ({ table, row: change(rename(row)) }))
  const versions = await rows('slide_version', 'slide', slides)
  await putRows([
    ...(await rows('slide', 'id', slides, (row) => row.replace(/"position": \d+/, '"position": null'))),
    ...(await Promise.all(versions.map(async ({ table, row }) => ({ table, row: await withOtherFiles(row, talk, n) })))),
    ...(await rows('stretch', 'id', stretches, (row) => row.replace(/"number": \d+/, () => `"number": ${String((numbers += 1))}`))),
    ...(await rows('cue', 'stretch', stretches)),
  ])
  for (const stretch of stretches) {
    await mkdir(stretchFolder(rename(stretch)), { recursive: true })
    for (const place of [recordingPath, voicePath]) await link(place(stretch), place(rename(stretch)))
  }
  return underOtherNames(programme, rename)
}

/**
 * Makes a talk so many times as long. Nothing in it is there twice for the export: every slide is another file, every
 * recording and every stroke has a name of its own, so that nothing made for one part does for another.
 */
export async function lengthened(
  talk: string,
  times: number,
  change: (programme: Programme) => Programme = (programme) => programme,
): Promise<void> {
  const { database } = await import('@server/database')
  const { currentProgramme } = await import('@server/domain')
  const before = await currentProgramme(database(), talk)
  const all = [before]
  for (let n = 1; n < times; n += 1) all.push(await onceMore(talk, before))
  await changeProgramme(talk, () =>
    change({
      ...before,
      pieces: all.flatMap(({ pieces }) => pieces),
      slides: Object.assign({}, ...all.map(({ slides }) => slides)) as Programme['slides'],
      framings: Object.assign({}, ...all.map(({ framings }) => framings)) as Programme['framings'],
      inkEdits: all.flatMap(({ inkEdits }) => inkEdits),
      inkAdded: all.flatMap(({ inkAdded }) => inkAdded),
    }),
  )
}
