import { isLocalAddress, isLoopback } from './addresses'
import type { Environment } from './environment'

/** Combinations of settings that would let in whoever comes, or show what is said to others on the way. */
const UNSAFE: readonly { readonly is: (value: Environment) => boolean; readonly sentence: (value: Environment) => string }[] = [
  {
    is: (value) => value.AISLE_ACCOUNTS === 'off' && !isLoopback(value.AISLE_HOST),
    sentence: ({ AISLE_HOST }) =>
      `AISLE_HOST is ${AISLE_HOST}, which others reach, and AISLE_ACCOUNTS is off, so whoever reaches it would ` +
      'be the presenter. Set AISLE_ACCOUNTS=on, or leave AISLE_HOST at 127.0.0.1.',
  },
  {
    is: (value) => value.AISLE_ACCOUNTS === 'off' && !isLocalAddress(value.AISLE_PUBLIC_ADDRESS),
    sentence: ({ AISLE_PUBLIC_ADDRESS }) =>
      `AISLE_PUBLIC_ADDRESS is ${AISLE_PUBLIC_ADDRESS ?? ''}, by which others reach this server, and AISLE_ACCOUNTS is off. ` +
      'Set AISLE_ACCOUNTS=on.',
  },
  {
    is: (value) => !isLocalAddress(value.AISLE_PUBLIC_ADDRESS) && value.AISLE_PUBLIC_ADDRESS?.startsWith('http:') === true,
    sentence: ({ AISLE_PUBLIC_ADDRESS }) =>
      `AISLE_PUBLIC_ADDRESS is ${AISLE_PUBLIC_ADDRESS ?? ''}, without TLS: browsers give no camera or microphone there, and passwords ` +
      'could be read on the way. Put a proxy with TLS before the server and name its https address.',
  },
  {
    is: (value) => !isLocalAddress(value.AISLE_PUBLIC_ADDRESS) && value.NUXT_SESSION_PASSWORD === undefined,
    sentence: () =>
      'NUXT_SESSION_PASSWORD is not set: everybody would be signed out whenever a server starts, and several servers would not know ' +
      "each other's people. Set it to 32 signs or more that nobody knows, the same on all machines.",
  },
  {
    is: ({ AISLE_OIDC_ISSUER }) => AISLE_OIDC_ISSUER?.startsWith('http:') === true && !isLocalAddress(AISLE_OIDC_ISSUER),
    sentence: ({ AISLE_OIDC_ISSUER }) =>
      `AISLE_OIDC_ISSUER is ${AISLE_OIDC_ISSUER ?? ''}, without TLS: whoever is on the way could sign in as anybody. ` +
      'Name its https address.',
  },
  {
    is: ({ AISLE_S3_ENDPOINT }) => AISLE_S3_ENDPOINT?.startsWith('http:') === true && !isLocalAddress(AISLE_S3_ENDPOINT),
    sentence: ({ AISLE_S3_ENDPOINT }) =>
      `AISLE_S3_ENDPOINT is ${AISLE_S3_ENDPOINT ?? ''}, without TLS: whoever is on the way could read and change what is recorded. ` +
      'Name its https address.',
  },
  {
    is: ({ AISLE_STORE, AISLE_STORE_FORMER }) => AISLE_STORE === AISLE_STORE_FORMER,
    sentence: ({ AISLE_STORE }) =>
      `AISLE_STORE and AISLE_STORE_FORMER are both ${AISLE_STORE}: what is removed there would be looked for there. ` +
      'Leave AISLE_STORE_FORMER out.',
  },
]

/** @throws Error saying all that is unsafe about these settings, and what to do */
export function refuseUnsafe(value: Environment): void {
  const said = UNSAFE.filter(({ is }) => is(value)).map(({ sentence }) => sentence(value))
  if (said.length > 0) throw new Error(`Settings: ${said.join('\n')}`)
}
