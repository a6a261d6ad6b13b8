import type { InkColour } from '@core/model'

/** Our inks, chosen to hold on light and on dark slides. */
export const INK_HEX: Readonly<Record<InkColour, string>> = {
  night: '#20406E',
  brick: '#C2452D',
  moss: '#2F8F5B',
  marigold: '#E09A14',
  plum: '#8A4FA3',
  shell: '#EFE3D0',
}

/** The pointer's spot: its radius as a fraction of the slide's height, and the discs it is made of, from the outermost in. */
export const SPOT = {
  radius: 0.02,
  discs: [
    { colour: '#FFFDF8', alpha: 0.55, reach: 1.25 },
    { colour: '#D9541E', alpha: 0.85, reach: 1 },
  ],
} as const
