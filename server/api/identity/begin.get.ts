import { getQuery, sendRedirect } from 'h3'
import { Refusal } from '@core/model'
import { answer, rememberWay } from '@server/http'
import { wayToProvider } from '@server/outside'
import { settings } from '@server/settings'

/** Sends somebody to the provider of identities. */
export default answer(async (event) => {
  const { provider } = settings()
  if (provider === null || settings().accounts === 'off') throw new Refusal('not-found', 'There is nothing under this address.')
  const to = String(getQuery(event)['to'] ?? '/')
  try {
    const { address, onTheWay } = await wayToProvider(provider)
    await rememberWay(event, { ...onTheWay, to: to.startsWith('/') && !to.startsWith('//') ? to : '/' })
    return await sendRedirect(event, address)
  } catch {
    return await sendRedirect(event, `/sign-in#${encodeURIComponent(`${provider.name} does not answer. Try again in a while.`)}`)
  }
})
