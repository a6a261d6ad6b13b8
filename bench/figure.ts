/** A figure, measured now on this machine. */
export interface Figure {
  readonly value: number
  readonly unit: string
  readonly target: string
  readonly ok: boolean
  readonly detail: Readonly<Record<string, unknown>>
}
