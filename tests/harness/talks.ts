import type { TalkView } from '@contracts'
import type { Client } from './client'
import { KNOTS, fileForm, makePdf } from './decks'
import { until } from './run-product'

/** Makes a talk of the deck about knots. @returns its id and those of its slides, in order */
export async function knotsTalk(client: Client, name = 'Knots'): Promise<{ readonly talk: string, readonly slides: readonly string[] }> {
  const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name, limit: null })
  await client.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  const view = await until('the deck', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return now.imports[0]?.state === 'done' && now
  })
  return { talk, slides: view.slides.map((slide) => slide.id) }
}
