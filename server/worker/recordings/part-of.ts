import type { Claim } from '../claims'

/** A name for what is not finished that no other worker gives, nor this one again. */
export const partOf = (path: string, claim: Claim): string => `${path}.${String(claim.number)}.part`
