import * as client from 'openid-client'
import { log } from '@server/log'
import { isLoopback, settings } from '@server/settings'
import type { Provider } from '@server/settings'

/** What is kept of somebody who is on their way to the provider and back. */
export interface OnTheWay {
  readonly state: string
  readonly nonce: string
  readonly verifier: string
}

/** What the provider says of who came back. */
export interface Claims {
  readonly issuer: string
  readonly subject: string
  readonly name: string | null
  readonly email: string | null
  readonly emailVerified: boolean
}

let found: Promise<client.Configuration> | undefined

/** Asks the provider where it is asked for what; again when it did not answer. */
function configuration({ issuer, client: id, secret }: Provider): Promise<client.Configuration> {
  // One on this machine needs no TLS.
  const plain = isLoopback(new URL(issuer).hostname) ? { execute: [client.allowInsecureRequests] } : {}
  found ??= client.discovery(new URL(issuer), id, undefined, client.ClientSecretPost(secret), plain)
  found.catch((error: unknown) => {
    log.warn({ error: String(error) }, 'the provider of identities does not answer')
    found = undefined
  })
  return found
}

/** Where the provider sends people back to. */
export const backAddress = (): string => `${settings().publicAddress}/api/identity/back`

/** Where somebody goes to be known by the provider (OpenID Connect Core 1.0, 3.1, with PKCE of RFC 7636). */
export async function wayToProvider(provider: Provider): Promise<{ readonly address: string; readonly onTheWay: OnTheWay }> {
  const [config, verifier] = [await configuration(provider), client.randomPKCECodeVerifier()]
  const onTheWay = { state: client.randomState(), nonce: client.randomNonce(), verifier }
  const address = client.buildAuthorizationUrl(config, {
    redirect_uri: backAddress(),
    scope: 'openid email profile',
    state: onTheWay.state,
    nonce: onTheWay.nonce,
    code_challenge: await client.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
  })
  return { address: address.href, onTheWay }
}

const textOf = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null)

/**
 * Who came back from the provider: its signature, audience, time, state and nonce are looked at.
 * @param query of the address that they came back to
 * @throws Error when they are not who they should be
 */
export async function whoCameBack(provider: Provider, query: string, { state, nonce, verifier }: OnTheWay): Promise<Claims> {
  const config = await configuration(provider)
  const tokens = await client.authorizationCodeGrant(config, new URL(`${backAddress()}${query}`), {
    pkceCodeVerifier: verifier,
    expectedState: state,
    expectedNonce: nonce,
    idTokenExpected: true,
  })
  const token = tokens.claims()
  if (token === undefined) throw new Error('the provider says nothing of who it is')
  const more = token['email'] === undefined ? await client.fetchUserInfo(config, tokens.access_token, token.sub) : token
  return {
    issuer: token.iss,
    subject: token.sub,
    name: textOf(more['name']) ?? textOf(more['preferred_username']),
    email: textOf(more['email'])?.toLowerCase() ?? null,
    emailVerified: more['email_verified'] === true,
  }
}
