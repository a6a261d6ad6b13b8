import type { Colours } from '@render/filters'
import type { Stream } from './probe'

/**
 * How the pictures of a recording are to be read. A browser says in the container which range and matrix they have (Matroska, "Colour");
 * the decoder of VP8 says of all of them that they are of limited range and BT.601, which holds where nothing else is said.
 */
export const recordedColours = ({ color_range: range, color_space: matrix }: Stream): Colours => ({
  range: range === 'pc' ? 'full' : 'limited',
  matrix: matrix === 'bt709' ? 'bt709' : 'bt601',
})
