/** Whether an address is this machine's alone. */
export const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || /^127(\.\d{1,3}){3}$/.test(host)

/** A host as it stands in an address (RFC 3986, 3.2.2). */
export const inAddress = (host: string): string => (host.includes(':') ? `[${host}]` : host)

/** Whether an address is reached from this machine alone; one that is not set is. */
export const isLocalAddress = (address: string | undefined): boolean =>
  address === undefined || isLoopback(new URL(address).hostname.replace(/^\[|\]$/g, ''))
