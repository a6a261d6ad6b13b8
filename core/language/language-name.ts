/** Names of languages, by the language that they are said in. */
const names = new Map<string | undefined, Intl.DisplayNames>()

/**
 * What a language is called.
 * @param tag BCP 47
 * @param said tag of the language that it is called so in; left out: that of the machine
 * @returns the tag itself where the machine does not know it
 */
export function languageName(tag: string, said?: string): string {
  const known = names.get(said) ?? new Intl.DisplayNames(said, { type: 'language' })
  names.set(said, known)
  try {
    return known.of(tag) ?? tag
  } catch {
    return tag
  }
}
