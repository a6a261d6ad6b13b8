import type { InkColour } from '@core/model'

/** Our inks, chosen to hold on light and on dark slides. */
export const INK_HEX: Readonly<Record<InkColour, string>> = {
  night: '#20406E',
  brick: '#C2452D',
  moss: '#2F8F5B',
  marigold: '#E09A14',
}
