import type { OutlineAdvice } from '@core/camera'

const ADVICE: Readonly<Record<OutlineAdvice, string>> = {
  nobody: 'Nobody is seen here. Sit before the camera, or go to a moment that has a face.',
  dark: 'More light on the face would help: it is dark.',
  alike: 'The wall and what you wear are alike. Another colour, or sitting farther from the wall, would help.',
  doubtful: 'The edges are not sure. More light, or a quieter wall, would help.',
}

/** What would help to tell a presenter from what is behind, in words. */
export const adviceWords = (advice: readonly OutlineAdvice[]): string => advice.map((one) => ADVICE[one]).join(' ')

/** Colours that can be behind a presenter: calm, and unlike skin. */
export const BACKDROP_COLOURS = [
  { colour: '#24413B', name: 'pine' },
  { colour: '#2E4A66', name: 'harbour' },
  { colour: '#6E7C79', name: 'slate' },
  { colour: '#D9E2DC', name: 'mist' },
  { colour: '#F4EFE3', name: 'sail' },
] as const
