import { answer, guestsHere, whoAsks } from '@server/http'
import { settings } from '@server/settings'
import type { SessionView } from '@contracts'

export default answer(async (event): Promise<SessionView> => {
  const [person, guests] = await Promise.all([whoAsks(event), guestsHere(event)])
  return { accounts: settings().accounts === 'on', person, guest: guests.length > 0 }
})
