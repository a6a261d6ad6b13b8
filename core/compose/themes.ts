import type { ColourOnSlide, Theme } from '@core/model'

/** What colours a slide made here is drawn in. */
export type Palette = Readonly<Record<ColourOnSlide, string>>

export const PALETTES: Readonly<Record<Theme, Palette>> = {
  paper: { ground: '#FCFAF4', text: '#1D2A29', soft: '#5D6A66', mark: '#B4690E', shade: '#EFE9DB' },
  harbour: { ground: '#173B4A', text: '#F4EFE3', soft: '#B9CBD0', mark: '#F0B440', shade: '#22505F' },
  dusk: { ground: '#2B2340', text: '#F3EEF7', soft: '#BDB3D0', mark: '#F2A38B', shade: '#3B3157' },
}
