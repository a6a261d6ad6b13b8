import { holdInside, run } from '@render/process'

/** Most missing fonts of a deck that are told of. */
const MOST = 12
/** Words that a page of a font's trial says. */
export const TRIAL_WORDS = 'Hafen Wind Ebbe'

/** Families of the fonts that are installed, in small letters; empty when the system cannot say. */
async function installedFamilies(): Promise<ReadonlySet<string>> {
  const listed = await run('fc-list', [':', 'family'], { hold: holdInside(20_000) }).catch(() => null)
  const lines = listed === null ? [] : listed.stdout.toString('utf8').split('\n')
  return new Set(lines.flatMap((line) => line.split(',')).map((family) => family.trim().toLowerCase()))
}

/** Which of some fonts are not installed, each once and in order. */
export async function missingFonts(wanted: Iterable<string>): Promise<readonly string[]> {
  const installed = await installedFamilies()
  if (installed.size === 0) return []
  const seen = new Set<string>()
  const missing: string[] = []
  for (const name of wanted) {
    const family = name.trim()
    // Names with a sign before them stand for a font of the theme.
    if (family === '' || /^[+@]/.test(family) || seen.has(family.toLowerCase())) continue
    seen.add(family.toLowerCase())
    if (!installed.has(family.toLowerCase())) missing.push(family)
  }
  return missing.slice(0, MOST)
}
