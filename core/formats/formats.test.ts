import { describe, expect, it } from 'vitest'
import { slide } from '@core/testing'
import { notesAsMarkdown, outlineAsMarkdown, readMarkdownDeck, readNotesFile, titleOfDraft } from '.'

describe('a text as a deck', () => {
  it('begins a slide at headings of the first two levels and at thematic breaks', () => {
    const drafts = readMarkdownDeck('# Tides\n\nHarbour school\n\n## Why\n\n### not a slide\n\ntext\n\n---\n\nno heading\n')
    expect(drafts.map((draft) => [titleOfDraft(draft), draft.composition.layout, draft.composition.body])).toEqual([
      ['Tides', 'opening', 'Harbour school'],
      ['Why', 'points', '### not a slide\n\ntext'],
      ['', 'points', 'no heading'],
    ])
  })

  it('keeps notes and viewer notes apart from what is shown and from each other', () => {
    const [draft] = readMarkdownDeck('## Why\n\nshown\n\n```notes\nsaid\n```\n\n```viewer-notes\nread\n```\n\n```js\ncode\n```')
    expect(draft).toMatchObject({ notes: 'said', viewerNotes: 'read', composition: { body: 'shown\n\n```js\ncode\n```' } })
  })

  it('lets points come by item, takes layouts by name and halves by their mark', () => {
    const drafts = readMarkdownDeck(
      '## A\n\n[by item, slide]\n\n- one\n- two\n\n## B\n\n[by item]\n\n- x\n\n## C\n\n[layout: claim]\n\n## ' +
        'D\n\nleft\n\n[second]\n\nright',
    )
    expect(
      drafts.map((draft) => [draft.composition.layout, draft.composition.reveal, draft.composition.body, draft.composition.second]),
    ).toEqual([
      ['points', 'slide', '- one\n- two', ''],
      ['points', 'appear', '- x', ''],
      ['claim', 'together', '', ''],
      ['pair', 'together', 'left', 'right'],
    ])
  })

  it('names its pictures and lays them out beside text or alone', () => {
    const drafts = readMarkdownDeck('## One\n\n![The pier](pics/old%20pier.png)\n\n## Two\n\n![a](a.png)\n\n- point')
    expect(drafts.map((draft) => [draft.composition.layout, draft.pictures])).toEqual([
      ['plate', [{ source: 'pics/old pier.png', alt: 'The pier' }]],
      ['plate-points', [{ source: 'a.png', alt: 'a' }]],
    ])
  })

  it('drops comments and tags, but not inside code', () => {
    expect(readMarkdownDeck('## A\n\n<!-- hidden -->one<br>two\n\n```\n<b>\n```')[0]?.composition.body).toBe('onetwo\n\n```\n<b>\n```')
  })

  it.each([
    ['tags in a span of code', '## A\n\nWrite `<b>` and ``<i> ` </i>`` here', 'Write `<b>` and ``<i> ` </i>`` here'],
    [
      'addresses in angle brackets',
      '## A\n\nSee <https://harbour.example/tides> or <maren@harbour.example>',
      'See <https://harbour.example/tides> or <maren@harbour.example>',
    ],
    ['tags in code inside a list', '## A\n\n- one\n\n  ```html\n  <b>bold</b>\n  ```', '- one\n\n  ```html\n  <b>bold</b>\n  ```'],
    ['comments in code', '## A\n\n```html\n<!-- kept -->\n```', '```html\n<!-- kept -->\n```'],
    ['less than and more than', '## A\n\n1 < 2 and 3 > 2 \\<b>', '1 < 2 and 3 > 2 \\<b>'],
  ])('keeps %s', (_, text, body) => {
    expect(readMarkdownDeck(text)[0]?.composition.body).toBe(body)
  })

  it('takes pictures out of sentences, lists and headings to stand beside the words', () => {
    const [slide] = readMarkdownDeck('## The ![mark](mark.png) pier\n\nLook at ![the pier](pier.png) now.\n\n- ![a boat](boat.png) sails')
    expect(slide?.pictures.map(({ source }) => source)).toEqual(['mark.png', 'pier.png', 'boat.png'])
    expect([slide?.composition.heading, slide?.composition.body, slide?.composition.layout]).toEqual([
      'The pier',
      'Look at now.\n\n- sails',
      'plate-points',
    ])
    // A layout that was asked for and shows none gives way.
    expect(readMarkdownDeck('## A\n\n[layout: points]\n\n![x](x.png)\n\ntext')[0]?.composition.layout).toBe('plate-points')
  })

  it('puts pictures that one slide has no room for on slides behind it', () => {
    const drafts = readMarkdownDeck(
      `## Boats\n\nAll of them\n\n${Array.from({ length: 14 }, (_, n) => `![b](${String(n)}.png)`).join('\n\n')}\n\n## Next`,
    )
    expect(drafts.map((draft) => [titleOfDraft(draft), draft.composition.layout, draft.pictures.length])).toEqual([
      ['Boats', 'plate-points', 6],
      ['Boats', 'plate', 6],
      ['Boats', 'plate', 2],
      ['Next', 'claim', 0],
    ])
  })

  it('takes settings at its beginning for no slide, and a slide between two breaks for one', () => {
    expect(readMarkdownDeck('---\ntitle: Tides\ntags:\n  - water\n---\n\n# Tides\n\ntext').map(titleOfDraft)).toEqual(['Tides'])
    expect(readMarkdownDeck('---\n\nonly words\n\n---\n\n# Tides').map((draft) => draft.composition.body)).toEqual(['only words', ''])
  })

  it.each([
    ['## A\n\n<script>alert(1)</script>', /^This text holds scripts/],
    ['## A\n\n<img src=x onerror="go()">', /^This text holds scripts/],
    ['## A\n\n<iframe src="x"></iframe>', /^This text holds scripts/],
    ['## A\n\n![x](https://elsewhere.example/x.png)', /^This text shows a picture from elsewhere/],
    ['## A\n\n![x](/etc/passwd)', /^This text shows a picture from elsewhere/],
    ['\n\n', /^There is nothing in this text/],
  ])('refuses %j', (text, sentence) => {
    expect(() => readMarkdownDeck(text)).toThrow(sentence)
  })
})

describe('a file of notes', () => {
  it('is parted by dashes, else by two empty lines, else by one', () => {
    expect(readNotesFile('a\n\nb\n---\nc\r\n')).toEqual(['a\n\nb', 'c'])
    expect(readNotesFile('a\n\nb\n\n\nc')).toEqual(['a\n\nb', 'c'])
    expect(readNotesFile('a\n\nb')).toEqual(['a', 'b'])
    expect(readNotesFile('---\na\n---\nb')).toEqual(['a', 'b'])
    expect(readNotesFile('  \n ')).toEqual([])
  })

  it('is written with one kind of notes only', () => {
    const deck = {
      shape: { width: 16, height: 9 },
      slides: [slide('One', 1, { notes: 'private words', viewerNotes: 'words for all' }), slide('Two')],
    }
    const [own, viewers] = [notesAsMarkdown('Knots', deck, 'notes'), notesAsMarkdown('Knots', deck, 'viewerNotes')]
    expect(own).toContain('private words')
    expect(own).not.toContain('words for all')
    expect(viewers).not.toContain('private words')
    expect(viewers).toMatch(/^# Knots\n\n## 1\. One\n\nwords for all\n\n## 2\. Two/)
  })
})

describe('a pasted outline', () => {
  const slides = (text: string): readonly (readonly [string, string])[] =>
    readMarkdownDeck(outlineAsMarkdown(text)).map((draft) => [titleOfDraft(draft), draft.composition.body])

  it('makes a slide of each line at the margin, with what is indented below it as points', () => {
    expect(
      slides('The rule of twelfths\n  one twelfth in the first hour\n  two in the second\n\nWhat it is good for\n- a boat at the quay'),
    ).toEqual([
      ['The rule of twelfths', '- one twelfth in the first hour\n- two in the second'],
      ['What it is good for', '- a boat at the quay'],
    ])
  })

  it('takes numbered or pointed lines at the margin for slides where there are no others', () => {
    expect(slides('1. Knots\n   a. bowline\n2. Splices').map(([title]) => title)).toEqual(['Knots', 'Splices'])
  })

  it('leaves a text alone that has headings or breaks of its own', () => {
    const text = '# Knots\n\nBowline\n\n---\n\nSplices'
    expect(outlineAsMarkdown(text)).toBe(text)
  })
})
