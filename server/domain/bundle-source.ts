import type { Caption } from '@core/model'
import type { Saying } from '@core/words'
import type { Queries } from '@server/database'
import { versionNow } from './screened-version'
import { screenedWords } from './screened-words'
import { screeningOf } from './screenings'
import type { Screening } from './screenings'

/** A talk as it goes into a bundle. */
export interface BundleSource {
  readonly screening: Screening
  readonly isRecorded: boolean
  readonly said: readonly Saying[]
  readonly captions: readonly Caption[]
  readonly title: string
  /** May be empty. */
  readonly presenter: string
  /** May be empty. */
  readonly description: string
  /** BCP 47 tag. */
  readonly language: string
  /** What goes with the talk, as it was called. */
  readonly files: readonly { readonly name: string; readonly digest: string }[]
}

/** A talk as those see it who watch, with what goes with it. @throws Refusal `conflict` when it shows nothing */
export async function bundleSource(q: Queries, talk: string): Promise<BundleSource> {
  const version = await versionNow(q, talk)
  const screening = await screeningOf(q, version)
  const [{ said, captions }, row, files] = await Promise.all([
    screenedWords(q, version, screening),
    q
      .selectFrom('talk')
      .leftJoin('share', 'share.talk', 'talk.id')
      .select(['talk.name', 'talk.language', 'share.presenter', 'share.description'])
      .where('talk.id', '=', talk)
      .executeTakeFirstOrThrow(),
    q.selectFrom('shared_file').select(['name', 'digest']).where('talk', '=', talk).orderBy('added').orderBy('name').execute(),
  ])
  return {
    screening,
    isRecorded: version.timing === 'recorded',
    said,
    captions,
    title: row.name,
    presenter: row.presenter ?? '',
    description: row.description ?? '',
    language: row.language,
    files,
  }
}
