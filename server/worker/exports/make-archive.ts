import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { readMe, timedStrokes } from '@core/archive'
import type { ArchivedStretch, TalkArchive } from '@core/archive'
import { namesInFolder } from '@core/bundle'
import { inkMl, subRip, webVtt } from '@core/formats'
import { indexFilm } from '@core/scene'
import { captionsOf } from '@core/words'
import { archivedTalk, filesToKeep, filmOf, firstName, nullIfConflict, transcriptFile, wordsOfFilm } from '@server/domain'
import { assetPath, deliveryPath, recordingFiles, sizeOf } from '@server/store'
import type { ExportFacts, ExportWork } from './export-work'
import { editingFiles } from './stems'
import { zipInto } from './zip-folder'
import type { ZipEntry } from './zip-folder'

const deckFiles = ({ assets }: TalkArchive): readonly ZipEntry[] =>
  assets.map(({ file, digest }) => ({ name: file, path: assetPath(digest) }))

/** Files that go with the talk, by the names that they have there. */
function sharedFiles({ files }: TalkArchive): readonly ZipEntry[] {
  const names = namesInFolder(files.map(({ name }) => name))
  return files.map(({ digest }, n) => ({ name: `talk-files/${names[n] ?? digest}`, path: assetPath(digest) }))
}

/** Files of a recording as they came. */
async function archivedFiles({ folder, ...stretch }: ArchivedStretch): Promise<readonly ZipEntry[]> {
  if (folder === null) return []
  const wanted = recordingFiles(stretch)
  const sizes = await Promise.all(wanted.map(([, path]) => sizeOf(path)))
  return wanted.flatMap(([name, path], n) => (sizes[n] == null ? [] : [{ name: `${folder}/${name}`, path }]))
}

const inkFiles = ({ takes, talk }: TalkArchive): readonly ZipEntry[] =>
  takes.flatMap(({ stretches }, n) =>
    stretches.flatMap((stretch, part): readonly ZipEntry[] => {
      const strokes = timedStrokes(stretch)
      const name = `ink/take-${String(n + 1)}-part-${String(part + 1)}.inkml`
      return strokes.length === 0 ? [] : [{ name, bytes: inkMl(strokes, talk.shape) }]
    }),
  )

async function wordFiles({ db, of }: ExportWork, { programme, talk }: TalkArchive): Promise<readonly ZipEntry[]> {
  if (programme === null) return []
  const captions = captionsOf(await wordsOfFilm(db, indexFilm(await filmOf(db, of.talk))), talk.language)
  if (captions.length === 0) return []
  const transcripts: ZipEntry[] = []
  for (const kind of ['docx', 'html', 'md', 'txt'] as const) {
    const found = await transcriptFile(db, of.talk, { kind, tidied: false, pictures: false }).catch(nullIfConflict)
    if (found !== null) transcripts.push({ name: `words/transcript.${kind}`, bytes: found.content })
  }
  return [{ name: 'words/captions.vtt', bytes: webVtt(captions) }, { name: 'words/captions.srt', bytes: subRip(captions) }, ...transcripts]
}

/** Files that were made of the talk. */
async function madeFiles({ db, of }: ExportWork): Promise<readonly ZipEntry[]> {
  if (!of.deliveries) return []
  const files = await filesToKeep(db, of.talk)
  const names = namesInFolder(files.map(({ file }) => file))
  return files.map(({ id, file }, n) => ({ name: `files/${names[n] ?? file}`, path: deliveryPath(id) }))
}

/** Makes an archive of a talk: all of it, in open formats. */
export async function makeArchive(work: ExportWork): Promise<ExportFacts> {
  const { db, of, folder, out, watch } = work
  const archive = await archivedTalk(db, of.talk, new Date().toISOString())
  const film = archive.programme === null ? null : await filmOf(db, of.talk)
  const edit = film === null ? [] : await editingFiles(work, archive, film)
  const text = join(folder, 'talk.json')
  await writeFile(text, JSON.stringify(archive))
  const recordings: ZipEntry[] = []
  for (const stretch of archive.takes.flatMap(({ stretches }) => stretches)) recordings.push(...(await archivedFiles(stretch)))
  const entries: readonly ZipEntry[] = [
    { name: 'READ ME.txt', bytes: readMe(archive) },
    { name: 'talk.json', path: text },
    ...deckFiles(archive),
    ...sharedFiles(archive),
    ...recordings,
    ...inkFiles(archive),
    ...edit,
    ...(await wordFiles(work, archive)),
    ...(await madeFiles(work)),
  ]
  await zipInto(out, firstName(of.name), entries, watch.signal)
  return { length: film === null ? null : indexFilm(film).length, sentence: null }
}
