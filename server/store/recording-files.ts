import { broughtPath, rawPath, stillPath, tailPath } from './media-store'

/** What of a stretch decides which files of a recording there are. */
export interface RecordingParts {
  readonly id: string
  readonly tail: object | null
  readonly stills: Readonly<Record<string, object>> | null
}

/** Files of a recording as they came, by the names that they have in an archive, with where they lie. Not all of them need be there. */
export const recordingFiles = ({ id, tail, stills }: RecordingParts): readonly (readonly [name: string, path: string])[] => [
  ['raw.webm', rawPath(id)],
  ['brought', broughtPath(id)],
  ...(tail === null ? [] : [['tail.pcm', tailPath(id)] as const]),
  ...Object.keys(stills ?? {}).map((n) => [`still-${n}.png`, stillPath(id, Number(n))] as const),
]
