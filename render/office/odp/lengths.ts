/** Centimetres in the units that lengths are written in (XSL 1.1, 5.9.13). */
const CENTIMETRES: Readonly<Record<string, number>> = { cm: 1, mm: 0.1, in: 2.54, pt: 2.54 / 72, pc: 2.54 / 6, px: 2.54 / 96 }

/** A length in cm; 0 for what is none. */
export function centimetres(length: string | null): number {
  const [, number, unit] = /^(-?\d+(?:\.\d+)?)(cm|mm|in|pt|pc|px)$/.exec(length ?? '') ?? []
  return number === undefined ? 0 : Number(number) * (CENTIMETRES[unit ?? 'cm'] ?? 1)
}

/** A length as files write it. @param value cm */
export const inCentimetres = (value: number): string => `${String(Math.round(value * 10_000) / 10_000)}cm`
