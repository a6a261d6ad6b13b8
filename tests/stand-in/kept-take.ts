/** A take that was broken off, as this browser kept it. */
export interface KeptBefore {
  /** Its recording, as base64. */
  readonly media: string
  readonly take: { readonly id: string } & Readonly<Record<string, unknown>>
  readonly stretch: { readonly id: string } & Readonly<Record<string, unknown>>
}
