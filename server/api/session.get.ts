import { answer, whoAsks } from '@server/http'
import { settings } from '@server/settings'
import type { SessionView } from '@contracts'

export default answer(async (event): Promise<SessionView> => ({
  accounts: settings().accounts === 'on',
  person: await whoAsks(event),
}))
