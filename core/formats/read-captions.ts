import type { Ms } from '@core/model'

/** Words of a caption file and when they are up. */
export interface ReadCaption {
  readonly from: Ms
  readonly until: Ms
  /** Without markup, on one line. */
  readonly text: string
}

/** `hours:` may be missing, and the thousandths stand behind a point or a comma (WebVTT, section 4.1; SubRip). */
const TIME = String.raw`(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})`
const TIMES = new RegExp(String.raw`^\s*${TIME}\s*-->\s*${TIME}`)
const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', quot: '"', apos: "'", lrm: '', rlm: '' }

function timeOf([hours, minutes, seconds, part]: readonly (string | undefined)[]): Ms {
  return ((Number(hours ?? 0) * 60 + Number(minutes)) * 60 + Number(seconds)) * 1000 + Number((part ?? '').padEnd(3, '0'))
}

/** What a caption says, without tags such as those of voices and slanted text, and without marks of places on the screen. */
const plainText = (lines: readonly string[]): string =>
  lines
    .join(' ')
    .replaceAll(/<[^>]*>/g, '')
    .replaceAll(/\{\\[^}]*\}/g, '')
    .replaceAll(/&(\w+);/g, (whole, name: string) => ENTITIES[name.toLowerCase()] ?? whole)
    .replaceAll(/\s+/g, ' ')
    .trim()

/**
 * Reads captions from a WebVTT or SubRip file. Blocks that are none (notes, styles, regions) and captions that end before they begin are
 * passed over.
 * @returns captions in order of their beginning; none when the file holds none
 */
export function readCaptions(file: string): readonly ReadCaption[] {
  const blocks = file
    .replace(/^\uFEFF/, '')
    .replaceAll(/\r\n?/g, '\n')
    .split(/\n(?:[ \t]*\n)+/)
  return blocks
    .flatMap((block): readonly ReadCaption[] => {
      const lines = block.split('\n')
      const at = lines.findIndex((line) => TIMES.test(line))
      const found = TIMES.exec(lines[at] ?? '')
      if (found === null) return []
      const [from, until] = [timeOf(found.slice(1, 5)), timeOf(found.slice(5, 9))]
      const text = plainText(lines.slice(at + 1))
      return until <= from || text === '' ? [] : [{ from, until, text }]
    })
    .sort((one, other) => one.from - other.from)
}
