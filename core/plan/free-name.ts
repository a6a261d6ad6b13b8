/**
 * A name that is not taken yet: as it is wanted, or with a number behind it. Capitals and small letters count as one.
 * @param ending with its dot; empty: it has none
 * @param taken names in small letters; the one that is found is added
 */
export function freeName(stem: string, ending: string, taken: Set<string>): string {
  for (let n = 1; ; n += 1) {
    const name = `${stem}${n === 1 ? '' : `-${String(n)}`}${ending}`
    if (taken.has(name.toLowerCase())) continue
    taken.add(name.toLowerCase())
    return name
  }
}
