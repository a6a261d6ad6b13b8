import type { BegunView, CallFields, CallView, RegisterView } from '@contracts'
import { Client } from './client'
import { fileForm } from './decks'
import { toneFile } from './office-decks'
import { until } from './run-product'

/** A call to whoever has its link, over tomorrow, by rules that ask for little. @param change what is to be otherwise */
export const callFields = (change: Partial<CallFields> = {}): CallFields => ({
  title: 'Knots of the harbour',
  asks: 'Show one knot, and say what it holds.',
  rules: { kind: 'talk-rules', version: 1, name: 'Short talks', length: { most: 10 }, lines: { least: 360, most: 480 } },
  until: new Date(Date.now() + 86_400_000).toISOString(),
  late: 'refused',
  faulty: 'refused',
  audience: 'link',
  group: null,
  people: [],
  accounts: false,
  address: 'optional',
  deck: null,
  ...change,
})

/** A call to which somebody without an account handed in a sound. */
export interface AnsweredCall {
  readonly call: string
  readonly entrant: string
  readonly entry: string
  /** Whoever handed in, and their talk. */
  readonly pupil: Client
  readonly talk: string
}

/** Makes a call, has somebody hand in a sound of a second, and waits until it is taken. */
export async function answeredCall(url: string, teacher: Client, title: string): Promise<AnsweredCall> {
  const { lines: _, ...rules } = callFields().rules
  const call = await teacher.get<CallView>('POST', '/calls', callFields({ title, rules }))
  const pupil = new Client(url)
  const begun = { name: `Pupil of ${title}`, address: null }
  const { talk } = await pupil.get<BegunView>('POST', `/entrances/${call.link.split('/').at(-1) ?? ''}/begin`, begun)
  await pupil.get('POST', `/talks/${talk}/entry/files`, fileForm('knot.m4a', await toneFile(1, 440)))
  const row = await until('the entry', async () => {
    const { rows } = await teacher.get<RegisterView>('GET', `/calls/${call.id}/register`)
    return rows.find(({ entry }) => entry !== null)
  })
  return { call: call.id, entrant: row.entrant, entry: row.entry?.id ?? '', pupil, talk }
}
