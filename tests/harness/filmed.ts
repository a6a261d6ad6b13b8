import type { FilmView, TalkView } from '@contracts'
import type { Client } from './client'
import { fileForm } from './decks'
import { until } from './run-product'

/** Brings a film into a talk. @returns the talk once it was read, or refused */
export async function filmed(client: Client, talk: string, name: string, film: Uint8Array): Promise<TalkView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/film`, fileForm(name, film))
  return await until('the film', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return ['done', 'failed'].includes(now.imports.find((one) => one.id === id)?.state ?? '') && now
  })
}
/** A talk's film once something is in it. */
export const filmOf = (client: Client, talk: string): Promise<FilmView> =>
  until('the take', async () => {
    const now = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    return now.programme.pieces.length > 0 && now
  })
