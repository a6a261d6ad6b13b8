import { readFile } from 'node:fs/promises'
import { extname } from 'node:path'
import { imageSize } from 'image-size'
import { Refusal } from '@core/model'
import type { Size } from '@core/model'
import { factsOfDelivery, judge } from '@core/rules'
import type { FileCompany, FileFacts, RuleKind, RuleLine, Rules } from '@core/rules'
import { filmFacts } from '@render/clips'
import { companyOf } from '@contracts'
import type { Companion, CompanionRole, HandInView } from '@contracts'
import type { Database, Queries } from '@server/database'
import { settings } from '@server/settings'
import { alsoUnder, deliveryPath, digestKept, entryFolder, entryPath, here, removeTree, writeWhole } from '@server/store'
import { sendNotTaken, sendReceipt } from './call-letters'
import type { CallRow } from './calls'
import type { EntrantRow } from './entrants'
import { entriesOf, judgedBy, notTaken } from './entries'
import type { EntryRow } from './entries'
import { tell } from './events'
import { coverOf } from './hand-in-company'
import { handInOf } from './hand-ins'
import { captionsOfDelivery, nullIfConflict, transcriptFile } from './words-files'

/** An entry that waits, with whose it is. */
interface Waiting {
  readonly entry: EntryRow
  readonly entrant: EntrantRow
  readonly call: CallRow
}

/** What came of looking at an entry; null: its file is still being made. */
type Outcome =
  | { readonly kind: 'refused'; readonly sentence: string; readonly facts: FileFacts | null; readonly lines: readonly RuleLine[] }
  | {
      readonly kind: 'taken'
      readonly facts: FileFacts
      readonly lines: readonly RuleLine[]
      readonly digest: string
      readonly companions: readonly Companion[]
    }

async function waitingEntry(q: Queries, id: string): Promise<Waiting | null> {
  const entry = await q.selectFrom('entry').selectAll().where('id', '=', id).where('state', 'in', ['making', 'checking']).executeTakeFirst()
  if (entry === undefined) return null
  const entrant = await q.selectFrom('entrant').selectAll().where('id', '=', entry.entrant).executeTakeFirstOrThrow()
  return { entry, entrant, call: await q.selectFrom('call').selectAll().where('id', '=', entrant.call).executeTakeFirstOrThrow() }
}

const refused = (sentence: string, facts: FileFacts | null = null, lines: readonly RuleLine[] = []): Outcome => ({
  kind: 'refused',
  sentence,
  facts,
  lines,
})

/** Writes what goes with a film that was made here. */
async function madeCompanions(
  q: Queries,
  talk: string,
  { rules, cover }: HandInView,
  delivery: string,
  entry: string,
): Promise<readonly Companion[]> {
  const captions = await captionsOfDelivery(q, delivery, 'vtt').catch(nullIfConflict)
  const transcript = await transcriptFile(q, talk, { kind: 'docx', tidied: true, pictures: false }).catch(nullIfConflict)
  const picture = rules?.cover === undefined ? null : await coverOf(q, talk, cover, rules.cover)
  const found: readonly (readonly [CompanionRole, string, string | Buffer | null])[] = [
    ['captions', 'vtt', captions?.content ?? null],
    ['transcript', 'docx', transcript?.content ?? null],
    ['cover', 'jpg', picture],
  ]
  const kept: Companion[] = []
  for (const [role, ending, content] of found) {
    if (content === null) continue
    await writeWhole(entryPath(entry, role, ending), Buffer.from(content))
    kept.push({ role, ending })
  }
  return kept
}

/** Takes in a file that was made here. */
async function takeMade(db: Database, { entry, entrant, call }: Waiting): Promise<Outcome | null> {
  const { delivery } = entry
  const row =
    delivery === null
      ? undefined
      : await db
          .selectFrom('delivery')
          .select(['state', 'file', 'recipe', 'facts', 'digest', 'sentence'])
          .where('id', '=', delivery)
          .executeTakeFirst()
  if (delivery === null || row === undefined || entrant.talk === null) return refused('Its file was deleted before it was taken.')
  if (row.state === 'failed') return refused(row.sentence ?? 'Its file could not be made.')
  if (row.state === 'cancelled') return refused('Making its file was cancelled.')
  if (row.state !== 'done' || row.facts === null) return null
  const facts = factsOfDelivery(row.file, row.recipe.format, row.facts)
  const view = await handInOf(db, entrant.talk)
  const lines = judgedBy(view, facts, entry.at.getTime())
  const faults = notTaken(call, lines)
  if (faults !== null) return refused(faults, facts, lines)
  const film = entryPath(entry.id, 'film', row.recipe.format)
  await alsoUnder(deliveryPath(delivery), film)
  const companions = await madeCompanions(db, entrant.talk, view, delivery, entry.id)
  return { kind: 'taken', facts, lines, digest: row.digest ?? (await digestKept(film)), companions }
}

/** Ending of an entry's film, without its dot. */
export const endingOf = (file: string): string => extname(file).slice(1).toLowerCase()

/** How large a picture says that it is; null: it cannot be read. */
async function sizeOfPicture(path: string): Promise<Size | null> {
  try {
    const { width, height } = imageSize(await readFile(await here(path)))
    return { width, height }
  } catch {
    return null
  }
}

/** What goes with a file that was recorded elsewhere. In which language words are is for whoever reads them to say. */
async function broughtCompany(entry: EntryRow, view: HandInView, rules: Rules, captionsInside: boolean): Promise<FileCompany> {
  const has = (role: CompanionRole): Companion | undefined => entry.companions.find((one) => one.role === role)
  const captioned = rules.captions === undefined || captionsInside || has('captions') !== undefined
  const transcribed = rules.transcript === undefined || has('transcript') !== undefined
  const picture = has('cover')
  return {
    ...companyOf(view, entry.at.getTime()),
    words: captioned && transcribed ? (rules.captions?.language ?? rules.transcript?.language ?? 'und') : null,
    cover: picture === undefined ? null : await sizeOfPicture(entryPath(entry.id, 'cover', picture.ending)),
  }
}

/** What is made of words: of a film from elsewhere nobody knows what is said. */
const WORDS: readonly RuleKind[] = ['captions', 'transcript']

/** Takes in a file that was recorded elsewhere: it is measured, and held against the same rules. */
async function takeBrought(db: Database, { entry, entrant, call }: Waiting): Promise<Outcome> {
  if (entrant.talk === null) return refused('The talk was deleted before its file was taken.')
  const film = entryPath(entry.id, 'film', endingOf(entry.file))
  const [facts, view] = await Promise.all([filmFacts(await here(film), entry.file, settings().clipTime), handInOf(db, entrant.talk)])
  if (view.rules === null) return refused('There are no rules for this talk any more.')
  const company = await broughtCompany(entry, view, view.rules, facts.captions)
  const lines = judge(view.rules, facts, company).map((line) =>
    company.words === null && WORDS.includes(line.kind) ? { ...line, found: 'None came with it.' } : line,
  )
  const faults = notTaken(call, lines)
  if (faults !== null) return refused(faults, facts, lines)
  return { kind: 'taken', facts, lines, digest: await digestKept(film), companions: entry.companions }
}

/** Writes what came of an entry, and tells it, unless somebody else has done so. @returns whether it was written */
async function settle(q: Queries, { entry, entrant, call }: Waiting, outcome: Outcome): Promise<boolean> {
  const found = { facts: outcome.facts === null ? null : JSON.stringify(outcome.facts), lines: JSON.stringify(outcome.lines) }
  const columns =
    outcome.kind === 'taken'
      ? { ...found, state: outcome.kind, digest: outcome.digest, companions: JSON.stringify(outcome.companions), file: outcome.facts.name }
      : { ...found, state: outcome.kind, sentence: outcome.sentence.slice(0, 2000) }
  const changed = await q
    .updateTable('entry')
    .set(columns)
    .where('id', '=', entry.id)
    .where('state', 'in', ['making', 'checking'])
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) return false
  if (outcome.kind === 'taken') await sendReceipt(q, call, entrant, { ...entry, file: outcome.facts.name, digest: outcome.digest })
  else await sendNotTaken(q, call, entrant, outcome.sentence)
  if (entrant.talk !== null) await tell(q, { talk: entrant.talk, kind: 'entry', id: entry.id })
  return true
}

/** What takes no more room: it was refused, or something newer counts. Its line stays, with what was measured. */
async function removeFilesOf(entries: readonly EntryRow[]): Promise<void> {
  await Promise.all(entries.map(({ id }) => removeTree(entryFolder(id))))
}

/**
 * Takes an entry in, or refuses it, once its file is there; nothing happens as long as it is not. May be done twice, and at once.
 * @throws Error when it cannot be told now: it is tried again
 */
export async function takeEntry(db: Database, id: string): Promise<void> {
  const waiting = await waitingEntry(db, id)
  if (waiting === null) return
  const outcome = await (waiting.entry.brought ? takeBrought(db, waiting) : takeMade(db, waiting)).catch((error: unknown): Outcome => {
    if (error instanceof Refusal && error.code === 'unreadable') return refused(error.message)
    throw error
  })
  if (outcome === null) return
  const written = await db.transaction().execute((q) => settle(q, waiting, outcome))
  if (!written) return
  if (outcome.kind === 'refused') await removeFilesOf([waiting.entry])
  else await removeFilesOf((await entriesOf(db, waiting.entrant.id)).filter((one) => one.id !== id && one.state === 'taken'))
}

/** An entry could not be looked at as often as it was tried. */
export async function giveEntryUp(db: Database, id: string): Promise<void> {
  const waiting = await waitingEntry(db, id)
  if (waiting === null) return
  const sentence = 'It could not be taken in because of a fault here, not of your file. Hand it in again; it counts as then.'
  await db.transaction().execute((q) => settle(q, waiting, refused(sentence)))
}
