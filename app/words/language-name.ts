const names = new Intl.DisplayNames(undefined, { type: 'language' })

/** What a language is called here, by its tag; the tag itself where the browser does not know it. */
export function languageName(tag: string): string {
  try {
    return names.of(tag) ?? tag
  } catch {
    return tag
  }
}
