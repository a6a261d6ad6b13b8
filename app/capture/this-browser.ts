import type { TakePlace } from '@contracts'

const MEMORY = 'aisle-browser'

/** The first that fits says what it is: browsers name each other's names. */
const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg/, 'Edge'],
  [/Firefox/, 'Firefox'],
  [/Chrom/, 'Chromium'],
  [/Safari/, 'Safari'],
]
const MACHINES: readonly (readonly [RegExp, string])[] = [
  [/Windows/, 'Windows'],
  [/Mac OS/, 'a Mac'],
  [/Android/, 'Android'],
  [/Linux/, 'Linux'],
]

const nameOf = (agent: string): string => {
  const first = (of: typeof BROWSERS): string | undefined => of.find(([sign]) => sign.test(agent))?.[1]
  const browser = first(BROWSERS) ?? 'a browser'
  const machine = first(MACHINES) ?? 'another machine'
  return `${browser} on ${machine}`
}

/** This browser as the server tells others of it: an id that it keeps, and what a person would call it. */
export function thisBrowser(): TakePlace {
  const browser = localStorage.getItem(MEMORY) ?? crypto.randomUUID()
  localStorage.setItem(MEMORY, browser)
  return { browser, name: nameOf(navigator.userAgent) }
}
