import { Refusal, storableText } from '@core/model'

/** Deepest nesting of what is sent here; what pages send is a third as deep. */
const DEEPEST = 32

const [QUOTE, BACKSLASH] = [0x22, 0x5c]
const OPENING: ReadonlySet<number> = new Set([0x5b, 0x7b])
const CLOSING: ReadonlySet<number> = new Set([0x5d, 0x7d])

/** Only written like this can what no store takes stand in JSON: its bytes are UTF-8, and bare it is not allowed. */
const ESCAPED = /\\u(?:0000|d[89a-f])/iu

const storable = (_name: string, value: unknown): unknown => (typeof value === 'string' ? storableText(value) : value)

/** How deep a text of JSON is nested, without reading it. */
function depthOf(bytes: Uint8Array): number {
  let [depth, deepest] = [0, 0]
  let quoted = false
  for (let n = 0; n < bytes.length; n += 1) {
    const byte = bytes[n] ?? 0
    if (quoted) {
      if (byte === BACKSLASH) n += 1
      else if (byte === QUOTE) quoted = false
    } else if (byte === QUOTE) {
      quoted = true
    } else if (OPENING.has(byte)) {
      depth += 1
      deepest = Math.max(deepest, depth)
    } else if (CLOSING.has(byte)) {
      depth -= 1
    }
  }
  return deepest
}

/**
 * Reads what a page sent (RFC 8259). An empty body is an empty object; texts are made such that they can be stored.
 * @throws Refusal `malformed` when it is no JSON, or nested deeper than anything that makes sense here
 */
export function readJson(bytes: Buffer): unknown {
  if (bytes.length === 0) return {}
  if (depthOf(bytes) > DEEPEST) throw new Refusal('malformed', 'This cannot be done: what was sent is nested too deeply.')
  try {
    const text = bytes.toString('utf8')
    return JSON.parse(text, ESCAPED.test(text) ? storable : undefined) as unknown
  } catch {
    throw new Refusal('malformed', 'This cannot be done: what was sent is no JSON.')
  }
}
