import type { FilterOptions } from './filter-graph'

/** How pixels of a film stand for colours: the range of their values, and the matrix between them and red, green and blue. */
export interface Colours {
  readonly range: 'full' | 'limited'
  readonly matrix: 'bt601' | 'bt709'
}

/** What all films that are made here have. */
export const TELEVISION: Colours = { range: 'limited', matrix: 'bt709' }

/** Options of `scale` that make television of pictures. */
export const TO_TELEVISION: FilterOptions = { out_range: TELEVISION.range, out_color_matrix: TELEVISION.matrix }

/** Options of `scale` that read pictures as what they are. */
export const scaledFrom = ({ range, matrix }: Colours): FilterOptions => ({ in_range: range, in_color_matrix: matrix })

/** Options of `zscale` that make television of them. */
export const televisionFrom = ({ range, matrix }: Colours): FilterOptions => ({
  matrixin: matrix === 'bt709' ? '709' : '170m',
  matrix: '709',
  rangein: range,
  range: 'limited',
})
