import { assetsOfSlides } from '@core/deck'
import { assetsOver } from '@core/programme'
import { stretchesOf } from '@core/scene'
import type { Programme } from '@core/model'
import { picturedIn } from './pictured-in'
import { programmesIn } from './programmes-in'
import type { TalkArchive } from './talk-archive'

/** Steps that a version of a slide has, by slide and version. */
const stepsByVersion = ({ versions }: TalkArchive): ReadonlyMap<string, number> =>
  new Map(versions.map(({ slide, version, steps }) => [`${slide} ${String(version)}`, steps.length]))

const firstMissing = <One>(wanted: Iterable<One>, there: ReadonlySet<One>): One | undefined => [...wanted].find((one) => !there.has(one))

/** What a programme names that is not in the archive, or not that long; null: nothing. */
function missingFromProgramme(programme: Programme, archive: TalkArchive): string | null {
  const lengths = new Map(archive.takes.flatMap(({ stretches }) => stretches.map(({ id, length }) => [id, length])))
  const steps = stepsByVersion(archive)
  for (const piece of programme.pieces) {
    const version = programme.slides[piece.slide]
    if (version === undefined || !steps.has(`${piece.slide} ${String(version)}`)) return 'a slide that it shows'
    if (firstMissing(stretchesOf(piece), new Set(lengths.keys())) !== undefined) return 'a recording that it plays'
    const spans = piece.kind === 'recorded' ? [piece.show, piece.voice, piece.camera] : []
    for (const span of spans)
      if (span !== null && (span.from >= span.to || span.to > (lengths.get(span.stretch) ?? 0)))
        return 'a part of a recording that it plays'
  }
  return null
}

/**
 * Something that an archive names and does not hold, in words: what it was changed to by hand, or cut short of. Nothing outside of it is
 * ever meant.
 * @returns null when all of it is there
 */
export function missingFrom(archive: TalkArchive): string | null {
  const slides = new Set(archive.slides.map(({ id }) => id))
  if (archive.slides.some(({ id, version }) => !stepsByVersion(archive).has(`${id} ${String(version)}`))) return 'what a slide shows'
  if (
    firstMissing(
      archive.versions.map(({ slide }) => slide),
      slides,
    ) !== undefined
  )
    return 'a slide'
  const assets = new Set(archive.assets.map(({ digest }) => digest))
  const named = [...assetsOfSlides(archive.versions.map(picturedIn)), ...archive.files.map(({ digest }) => digest)]
  if (firstMissing<string>(named, assets) !== undefined) return 'a picture or file'
  const stretches = archive.takes.flatMap((take) => take.stretches)
  const shown = stretches.flatMap(({ opening, cues }) => [
    opening.slide,
    ...cues.flatMap((cue) => (cue.kind === 'show' ? [cue.slide] : [])),
  ])
  if (firstMissing(shown, slides) !== undefined) return 'a slide that was shown'
  const ids = new Set(stretches.map(({ id }) => id))
  const of = [...archive.words.map(({ stretch }) => stretch), ...stretches.flatMap(({ windowOf }) => windowOf ?? [])]
  if (firstMissing(of, ids) !== undefined) return 'a recording'
  const programmes = programmesIn(archive)
  if (firstMissing<string>(programmes.flatMap(assetsOver), assets) !== undefined) return 'a picture or sound that lies over it'
  return programmes.reduce<string | null>((found, programme) => found ?? missingFromProgramme(programme, archive), null)
}
