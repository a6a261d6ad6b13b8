import { sendRedirect } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { personOfIdentity } from '@server/domain'
import { answer, endWay, networkOf, signInHere } from '@server/http'
import { log } from '@server/log'
import { whoCameBack } from '@server/outside'
import { settings } from '@server/settings'

/** Somebody comes back from the provider of identities: they are signed in, or told why not. */
export default answer(async (event) => {
  const { provider } = settings()
  if (provider === null) throw new Refusal('not-found', 'There is nothing under this address.')
  const way = await endWay(event)
  try {
    if (way === null) throw new Refusal('not-allowed', 'That took too long. Sign in once more.')
    const claims = await whoCameBack(provider, event.path.slice(event.path.indexOf('?')), way)
    const identity = { ...claims, name: claims.name ?? claims.email?.split('@')[0] ?? 'Somebody' }
    const person = await database()
      .transaction()
      .execute((q) => personOfIdentity(q, identity))
    log.info({ person, network: networkOf(event) }, 'signed in by the provider')
    await signInHere(event, person)
    return await sendRedirect(event, way.to)
  } catch (error) {
    if (!(error instanceof Refusal)) log.warn({ err: error }, 'sign-in by the provider failed')
    const sentence = error instanceof Refusal ? error.message : `${provider.name} did not let you in. Try once more.`
    return await sendRedirect(event, `/sign-in#${encodeURIComponent(sentence)}`)
  }
})
