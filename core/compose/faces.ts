/** The families that slides made here are set in. They ship with the product, for browsers and for the export alike. */
export const FACES = {
  read: 'Atkinson Hyperlegible Next',
  display: 'Bricolage Grotesque',
  code: 'Commit Mono',
} as const
export type Face = keyof typeof FACES

/** How a run of text is set. `size` in layout units. */
export interface Font {
  readonly face: Face
  readonly bold: boolean
  readonly italic: boolean
  readonly size: number
}

/** A font as canvases name it. @param scale pixels a layout unit */
export const cssFont = (font: Font, scale: number): string => {
  const bold = font.face === 'code' ? 700 : 600
  const weight = font.face === 'display' || font.bold ? bold : 400
  return (
    `${font.italic && font.face === 'read' ? 'italic ' : ''}${String(weight)} ${(font.size * scale).toFixed(2)}px ` +
    `"${FACES[font.face]}"`
  )
}
