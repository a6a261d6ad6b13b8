import { createHash } from 'node:crypto'
import type { ScreeningView } from '@contracts'
import type { Queries } from '@server/database'
import type { Access } from './access'
import type { ScreeningVersion } from './screening-pass'
import { screenedWords } from './screened-words'
import { versionNow } from './screened-version'
import { filmToTake, mediaPath, screeningOf } from './screenings'
import { sharedFiles } from './shared-files'
import { sharedLinks } from './shared-links'
import { addressOf } from './shares'
import { streamTracks } from './stream-tracks'
import { isLive } from './live-takes'

/** Tells one version from another without telling how many there were. */
const versionName = ({ talk, timing, revision }: ScreeningVersion): string =>
  createHash('sha256')
    .update(`${talk} ${timing} ${String(revision)}`)
    .digest('base64url')
    .slice(0, 12)

/** Somebody is recording the next version, or what was recorded is being made ready. */
async function isRecorded(q: Queries, talk: string): Promise<boolean> {
  const live = await q
    .selectFrom('take')
    .select('take.id')
    .where('take.talk', '=', talk)
    .where('take.kind', '!=', 'rehearsal')
    .where((either) => either.or([isLive, either('take.state', '=', 'closing')]))
    .executeTakeFirst()
  return live !== undefined
}

/** Which version is shown now, and whether somebody is recording the next. */
export async function screeningState(q: Queries, talk: string): Promise<Pick<ScreeningView, 'version' | 'recording'>> {
  const [version, recording] = await Promise.all([versionNow(q, talk), isRecorded(q, talk)])
  return { version: versionName(version), recording }
}

/** All that a screening page says of a talk. @throws Refusal `conflict` when there is nothing to be seen of it yet */
export async function screeningView(q: Queries, access: Access): Promise<ScreeningView> {
  const { talk, mayTake, mayAsk } = access
  const version = await versionNow(q, talk)
  const [screening, recording, row, film, tracks, files] = await Promise.all([
    screeningOf(q, version),
    isRecorded(q, talk),
    q
      .selectFrom('talk')
      .innerJoin('share', 'share.talk', 'talk.id')
      .select(['talk.name', 'talk.language', 'share.presenter', 'share.description'])
      .where('talk.id', '=', talk)
      .executeTakeFirstOrThrow(),
    filmToTake(q, mayTake.film),
    streamTracks(q, talk, version.revision),
    sharedFiles(q, talk),
  ])
  const [links, words] = await Promise.all([sharedLinks(q, talk, screening.whole.film.programme), screenedWords(q, version, screening)])
  return {
    title: row.name,
    presenter: row.presenter,
    description: row.description,
    language: row.language,
    shape: screening.film.shape,
    timing: version.timing,
    version: versionName(version),
    length: screening.length,
    media: mediaPath(version, access.audience),
    face: screening.face.length > 0,
    voice: screening.voice,
    visits: screening.visits,
    slides: mayTake.viewerNotes ? screening.slides : screening.slides.map((slide) => ({ ...slide, viewerNotes: '' })),
    ...words,
    take: {
      handout: mayTake.handout,
      viewerNotes: mayTake.viewerNotes && screening.slides.some((slide) => slide.viewerNotes.trim() !== ''),
      film: film === null ? null : { file: film.file, bytes: film.bytes },
    },
    files,
    links,
    questions: mayAsk,
    windowsCut: screening.windowsCut,
    films: version.timing === 'recorded' ? tracks.map(({ lines }) => lines) : [],
    reports: access.reported !== null,
    abroad: access.open ? { address: addressOf(access.key), embeds: access.embedOn.length > 0, found: access.found } : null,
    recording,
  }
}
