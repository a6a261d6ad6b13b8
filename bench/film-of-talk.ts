import { toFilm } from '@contracts'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Film } from '@core/model'
import { database } from '@server/database'
import { filmView } from '@server/domain'

/** The demo talk's film, with its camera or without, its pieces said as often as asked. */
export async function demoFilm(options: { readonly camera: boolean, readonly times: number }): Promise<FilmIndex> {
  const talk = await database().selectFrom('talk').select('id').where('name', '=', 'The rule of twelfths').executeTakeFirstOrThrow()
  const film = toFilm(await filmView(database(), talk.id))
  const pieces = Array.from({ length: options.times }, (_, n) => film.programme.pieces.map((piece) => {
    const named = { ...piece, id: `${piece.id}.${String(n)}` as typeof piece.id, visit: `${piece.visit}.${String(n)}` as typeof piece.visit }
    return named.kind === 'recorded' && !options.camera ? { ...named, camera: null } : named
  })).flat()
  const changed: Film = { ...film, programme: { ...film.programme, pieces } }
  return indexFilm(changed)
}
