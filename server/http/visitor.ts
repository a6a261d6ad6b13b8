import type { H3Event } from 'h3'
import type { Visitor } from '@server/domain'
import { isBrought, sealed } from './sealed'
import type { Sealed } from './sealed'

/*
 * What is known of somebody who watches without an account: an address that they have shown to be theirs, and phrases that they have
 * said. It lies sealed in their own browser, and is of no use but where a share asks for it.
 */

interface Known {
  readonly address?: string
  readonly phrases?: readonly string[]
}

const VISITOR: Sealed = { name: 'aisle-visitor', maxAge: 14 * 24 * 3600 }
/** Phrases that are remembered: those said last. */
const MOST_PHRASES = 20

/** Who comes. Nothing is put into the browser of somebody of whom nothing is known. */
export async function visitorOf(event: H3Event): Promise<Visitor> {
  if (!isBrought(event, VISITOR)) return { address: null, phrases: [] }
  const { data } = await sealed<Known>(event, VISITOR)
  return { address: data.address ?? null, phrases: data.phrases ?? [] }
}

/** Somebody has shown that an address is theirs. */
export async function rememberAddress(event: H3Event, address: string): Promise<void> {
  await (await sealed<Known>(event, VISITOR)).update({ address })
}

/** Somebody has said a phrase. @param mark see `phraseMark` */
export async function rememberPhrase(event: H3Event, mark: string): Promise<void> {
  const session = await sealed<Known>(event, VISITOR)
  await session.update({ phrases: [...(session.data.phrases ?? []).filter((one) => one !== mark), mark].slice(-MOST_PHRASES) })
}
