import type { Programme } from '@core/model'
import type { TalkArchive } from './talk-archive'

/** All programmes of an archive: the one that is played, and those that were named. */
export const programmesIn = ({ programme, named }: Pick<TalkArchive, 'programme' | 'named'>): readonly Programme[] => [
  ...(programme === null ? [] : [programme]),
  ...named.map((version) => version.programme),
]
