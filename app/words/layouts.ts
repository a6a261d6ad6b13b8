import type { Border, Layout, Outline, Placing, Reveal, Theme, Transition } from '@core/model'

/** What our layouts and other choices are called for the person. */
export const LAYOUT_WORDS: Readonly<Record<Layout, { readonly name: string; readonly hint: string }>> = {
  opening: { name: 'Opening', hint: 'a title and what stands under it' },
  claim: { name: 'Claim', hint: 'one sentence, large' },
  points: { name: 'Points', hint: 'a heading over text or a list' },
  plate: { name: 'Plate', hint: 'pictures with their line' },
  pair: { name: 'Pair', hint: 'two halves side by side' },
  'plate-points': { name: 'Plate and points', hint: 'a picture beside text' },
  voice: { name: 'Voice', hint: 'few words beside a large face' },
  bare: { name: 'Bare', hint: 'empty ground to draw on' },
}
export const THEME_WORDS: Readonly<Record<Theme, string>> = { paper: 'Paper', harbour: 'Harbour', dusk: 'Dusk' }
export const REVEAL_WORDS: Readonly<Record<Reveal, string>> = {
  together: 'all together',
  appear: 'one by one',
  fade: 'one by one, fading',
  slide: 'one by one, sliding',
}
export const TRANSITION_WORDS: Readonly<Record<Transition, string>> = {
  cut: 'at once',
  fade: 'fading in',
  push: 'pushing the last one out',
  wipe: 'wiping over the last one',
}
export const OUTLINE_WORDS: Readonly<Record<Outline, string>> = { card: 'Upright card', wide: 'Wide card', round: 'Round', arch: 'Arch' }
export const BORDER_WORDS: Readonly<Record<Border, string>> = { none: 'None', thin: 'Thin', broad: 'Broad' }
export const PLACING_WORDS: Readonly<Record<Placing | 'off', string>> = {
  over: 'On the slide',
  beside: 'Beside it',
  full: 'Fills the frame',
  off: 'Off',
}
