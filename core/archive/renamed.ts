/**
 * JSON with other names for things, wherever they stand: as values and as names of fields.
 * @param json as `JSON.parse` gives it
 * @param names the new name of each that gets one
 */
export function renamed(json: unknown, names: ReadonlyMap<string, string>): unknown {
  if (typeof json === 'string') return names.get(json) ?? json
  if (Array.isArray(json)) return json.map((one: unknown) => renamed(one, names))
  if (typeof json !== 'object' || json === null) return json
  return Object.fromEntries(Object.entries(json).map(([name, value]) => [names.get(name) ?? name, renamed(value, names)]))
}
