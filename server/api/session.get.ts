import { answer, guestsHere, whoAsks } from '@server/http'
import { settings } from '@server/settings'
import type { SessionView } from '@contracts'

export default answer(async (event): Promise<SessionView> => {
  const [person, guests] = await Promise.all([whoAsks(event), guestsHere(event)])
  const { accounts, signUp, provider } = settings()
  return { accounts: accounts === 'on', person, guest: guests.length > 0, signUp, provider: provider?.name ?? null }
})
