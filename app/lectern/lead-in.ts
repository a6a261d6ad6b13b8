import type { Ms } from '@core/model'

/** What is played of the programme before a part of it is said again, and what follows it. */
export interface LeadIn {
  readonly from: Ms
  readonly to: Ms
  readonly then: () => void
}

/** How much is played, and the least that is worth playing, in ms. */
const LEAD: Ms = 3000
const SHORTEST: Ms = 500

/** Whether so much of the programme comes before a part that it is worth playing. @param to programme time at which the part begins */
export const isWorthPlaying = (to: Ms): boolean => to >= SHORTEST

/** Has the seconds before a part played, to speak into. */
export function leadingIn() {
  const leadIn = shallowRef<LeadIn | null>(null)

  /** @param to programme time at which the part begins */
  function start(to: Ms, then: () => void): void {
    leadIn.value = {
      from: Math.max(0, to - LEAD),
      to,
      then: () => {
        leadIn.value = null
        then()
      },
    }
  }
  const stop = (): void => {
    leadIn.value = null
  }

  return { leadIn, start, stop }
}
