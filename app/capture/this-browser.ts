import type { TakePlace } from '@contracts'

const MEMORY = 'aisle-browser'

const nameOf = (agent: string): string => {
  const browser = /Edg/.test(agent)
    ? 'Edge'
    : /Firefox/.test(agent)
      ? 'Firefox'
      : /Chrom/.test(agent)
        ? 'Chromium'
        : /Safari/.test(agent)
          ? 'Safari'
          : 'a browser'
  const machine = /Windows/.test(agent)
    ? 'Windows'
    : /Mac OS/.test(agent)
      ? 'a Mac'
      : /Android/.test(agent)
        ? 'Android'
        : /Linux/.test(agent)
          ? 'Linux'
          : 'another machine'
  return `${browser} on ${machine}`
}

/** This browser as the server tells others of it: an id that it keeps, and what a person would call it. */
export function thisBrowser(): TakePlace {
  const browser = localStorage.getItem(MEMORY) ?? crypto.randomUUID()
  localStorage.setItem(MEMORY, browser)
  return { browser, name: nameOf(navigator.userAgent) }
}
