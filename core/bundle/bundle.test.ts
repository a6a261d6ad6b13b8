import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { mostOfSmallForm, namesInFolder, watchPage } from '.'
import type { BundleTalk } from '.'

const TALK: BundleTalk = {
  title: 'Knots & <bends>',
  presenter: 'Ona Ferrel',
  description: '',
  language: 'en',
  length: 65_000,
  media: { kind: 'film', file: 'film.mp4' },
  visits: [
    { id: asId('a'), slide: asId('one'), number: 1, title: 'Bowline', start: 0, length: 40_000 },
    { id: asId('b'), slide: asId('two'), number: 2, title: '', start: 40_000, length: 10_000 },
    { id: asId('c'), slide: asId('one'), number: 1, title: 'Bowline', start: 50_000, length: 15_000 },
  ],
  slides: [
    {
      id: asId('one'),
      number: 1,
      title: 'Bowline',
      text: 'Rabbit, hole, tree',
      viewerNotes: 'Try it with </script> rope',
      description: '',
      picture: 'pictures/slide-1.jpg',
      links: ['https://knots.example/?a=1&b=2'],
    },
    { id: asId('two'), number: 2, title: '', text: '', viewerNotes: '', description: 'A post', picture: 'pictures/slide-2.jpg', links: [] },
  ],
  said: [{ from: 1000, words: 'Take the rope <firmly>.' } as BundleTalk['said'][number]],
  captions: [],
  files: [{ file: 'files/knots to try #1.txt', says: 'knots to try #1.txt' }],
}

describe('the page of a bundle', () => {
  const page = watchPage({ talk: TALK, drawn: null, script: 'const end = "</script>"', style: '' })

  it('has all that can be read in it without its script, and its film with the controls of the browser', () => {
    expect(page).toContain('<video id="media" controls')
    expect(page).toContain('src="film.mp4"')
    expect(page).toContain('Ona Ferrel, 1:05')
    expect(page).toContain('Take the rope &lt;firmly&gt;.')
    expect(page).toContain('Slide 2')
    expect(page).toContain('href="https://knots.example/?a=1&amp;b=2"')
    expect(page).toContain('href="files/knots%20to%20try%20%231.txt"')
    // A slide that is shown twice has its words once.
    expect(page.match(/Rabbit, hole, tree<\/p>/g)).toHaveLength(1)
  })

  it('lets nothing of a talk end an element, and asks nobody for anything', () => {
    expect(page).toContain('<title>Knots &amp; &lt;bends&gt;</title>')
    expect(page.match(/<\/script>/g)).toHaveLength(2)
    const data = /<script type="application\/json" id="talk">(.*)<\/script>/.exec(page)?.[1] ?? ''
    expect(JSON.parse(data)).toEqual(TALK)
    const fetched = [...page.matchAll(/(?:src|poster)="([^"]*)"/g)].map(([, address]) => address)
    expect(fetched.length).toBeGreaterThan(3)
    expect(fetched.filter((address) => /^[a-z]*:?\/\//.test(address ?? ''))).toEqual([])
  })
})

describe('names of files in a folder', () => {
  it('keep their endings, and are apart on every file system', () => {
    expect(namesInFolder(['Work sheet.PDF', 'work sheet.pdf', '../../etc/passwd', 'con.txt', 'a:b?.csv', '.hidden'])).toEqual([
      'Work sheet.pdf',
      'work sheet-2.pdf',
      'etc-passwd',
      'talk-con.txt',
      'a-b.csv',
      'talk.hidden',
    ])
  })
})

describe('a small form', () => {
  it('takes less than 4 MB for ten minutes, and in proportion beyond', () => {
    expect(mostOfSmallForm(0)).toBe(3_900_000)
    expect(mostOfSmallForm(600_000)).toBe(3_900_000)
    expect(mostOfSmallForm(900_000)).toBe(5_850_000)
  })
})
