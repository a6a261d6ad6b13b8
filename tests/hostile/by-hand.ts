import { deflateSync } from 'node:zlib'
import { run } from '@render/process'
import { hugePng, lockedPdf, makePdf, makeZip, plainPng } from '../harness/decks'
import type { Door, HostileInput } from './input'

/** A PDF of objects that are given as they are, from number 1 on; the first is its catalogue. */
function pdfOf(objects: readonly string[]): Buffer {
  let body = '%PDF-1.7\n'
  const offsets = objects.map((object, n) => {
    const at = body.length
    body += `${String(n + 1)} 0 obj\n${object}\nendobj\n`
    return at
  })
  const xref = body.length
  body +=
    `xref\n0 ${String(objects.length + 1)}\n0000000000 65535 f ` +
    `\n${offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('')}`
  body += `trailer\n<< /Size ${String(objects.length + 1)} /Root 1 0 R >>\nstartxref\n${String(xref)}\n%%EOF\n`
  return Buffer.from(body, 'latin1')
}

const CATALOGUE = '<< /Type /Catalog /Pages 2 0 R >>'
const ONE_PAGE = '<< /Type /Pages /Kids [3 0 R] /Count 1 >>'
const pageOf = (box: string, more = ''): string => `<< /Type /Page /Parent 2 0 R /MediaBox ${box} /Contents 4 0 R ${more} >>`
const streamOf = (content: string, more = ''): string => `<< /Length ${String(content.length)} ${more} >>\nstream\n${content}\nendstream`
const drawing = (content: string): Buffer => pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 960 540]'), streamOf(content)])

/** A stream that unpacks to a great deal, packed in itself so often. */
function packed(bytes: number, times: number): Buffer {
  let content = deflateSync(Buffer.alloc(bytes, 32))
  for (let n = 1; n < times; n += 1) content = deflateSync(content)
  const text = content.toString('latin1')
  return pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 960 540]'), streamOf(text, `/Filter [${'/FlateDecode '.repeat(times)}]`)])
}

function hugeImage(side: number): Buffer {
  const content = deflateSync(Buffer.alloc(side * side)).toString('latin1')
  return pdfOf([
    CATALOGUE,
    ONE_PAGE,
    pageOf('[0 0 960 540]', '/Resources << /XObject << /Im 5 0 R >> >>'),
    streamOf('960 0 0 540 0 0 cm /Im Do'),
    streamOf(
      content,
      `/Type /XObject /Subtype /Image /Width ${String(side)} /Height ${String(side)} /ColorSpace /DeviceGray /BitsPerComponent ` +
        `8 /Filter /FlateDecode`,
    ),
  ])
}

/** A page that draws a form which draws itself. */
const drawsItself = (): Buffer =>
  pdfOf([
    CATALOGUE,
    ONE_PAGE,
    pageOf('[0 0 960 540]', '/Resources << /XObject << /Fm 5 0 R >> >>'),
    streamOf('/Fm Do'),
    streamOf('/Fm Do /Fm Do', '/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Resources << /XObject << /Fm 5 0 R >> >>'),
  ])

/** Pages in a tree that is this deep. */
function deepTree(depth: number): Buffer {
  const nodes = Array.from({ length: depth }, (_, n) => `<< /Type /Pages /Kids [${String(n + 3)} 0 R] /Count 1 >>`)
  return pdfOf([CATALOGUE, ...nodes, `<< /Type /Page /Parent ${String(depth + 1)} 0 R /MediaBox [0 0 960 540] >>`])
}

/** A name, and what makes it: some are large, and not all are asked for. */
type ByHand = readonly [string, () => Buffer | Promise<Buffer>]

const pdfs: readonly ByHand[] = [
  ['empty', () => Buffer.alloc(0)],
  ['only its mark', () => Buffer.from('%PDF-1.7\n')],
  ['zeros after its mark', () => Buffer.concat([Buffer.from('%PDF-1.7\n'), Buffer.alloc(100_000)])],
  ['locked', () => Buffer.from(lockedPdf())],
  ['no pages', () => pdfOf([CATALOGUE, '<< /Type /Pages /Kids [] /Count 0 >>'])],
  [
    'says it has 100,000 pages',
    () => pdfOf([CATALOGUE, '<< /Type /Pages /Kids [3 0 R] /Count 100000 >>', pageOf('[0 0 960 540]'), streamOf('')]),
  ],
  ['pages that are their own parents', () => pdfOf([CATALOGUE, '<< /Type /Pages /Kids [2 0 R] /Count 5 >>'])],
  ['a tree of pages 5,000 deep', () => deepTree(5000)],
  ['page of a million points', () => pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 1000000 1000000]'), streamOf('')])],
  ['page of no size', () => pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 0 0]'), streamOf('')])],
  ['page of no number', () => pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 NaN x]'), streamOf('')])],
  ['very long page', () => pdfOf([CATALOGUE, ONE_PAGE, pageOf('[0 0 10 100000]'), streamOf('')])],
  [
    'opens a script and a program',
    () =>
      pdfOf([
        '<< /Type /Catalog /Pages 2 0 R /OpenAction << /S /JavaScript /JS (for(;;){}) >> /AA << /O << /S /Launch /F (sh) >> >> >>',
        ONE_PAGE,
        pageOf('[0 0 960 540]'),
        streamOf(''),
      ]),
  ],
  [
    'fetches from elsewhere',
    () =>
      pdfOf([
        CATALOGUE,
        ONE_PAGE,
        pageOf('[0 0 960 540]', '/Resources << /XObject << /Im 5 0 R >> >>'),
        streamOf('/Im Do'),
        '<< /Type /XObject /Subtype /Image /F << /FS /URL /F (http://127.0.0.1:1/x) >> /Width 9 /Height 9 /Length 0 ' +
          '>>\nstream\n\nendstream',
      ]),
  ],
  ['states saved 400,000 times', () => drawing('q '.repeat(400_000))],
  ['a million short lines', () => drawing('0 0 m 9 9 l S '.repeat(300_000))],
  [
    'text of U+0000 and half pairs',
    () =>
      pdfOf([
        CATALOGUE,
        ONE_PAGE,
        pageOf('[0 0 960 540]', '/Resources << /Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >>'),
        streamOf('BT /F 40 Tf 60 440 Td (\\000\\000Knots\\000) Tj ET'),
      ]),
  ],
  ['unpacks to 400 MB', () => packed(400_000_000, 2)],
  ['picture of 12,000 a side', () => hugeImage(12_000)],
  ['draws itself', () => drawsItself()],
  ['brackets 200,000 deep', () => pdfOf([CATALOGUE, ONE_PAGE, pageOf(`${'['.repeat(200_000)}`), streamOf('')])],
  [
    '1,200 pages',
    async () => Buffer.from(await makePdf(Array.from({ length: 1200 }, (_, n) => ({ colour: [n % 255, 90, 90] as const, title: 'p' })))),
  ],
]

const pictures: readonly (readonly [string, string, Buffer])[] = [
  ['30,000 pixels a side', 'huge.png', Buffer.from(hugePng(30_000, 30_000))],
  ['19,000 by 6,000, of nothing', 'wide.png', Buffer.from(hugePng(19_000, 6000))],
  ['no pixels', 'none.png', Buffer.from(hugePng(0, 0))],
  [
    'vector markup that says it is a picture',
    'markup.png',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script><image href="file:///etc/passwd"/></svg>'),
  ],
  ['a page that says it is a picture', 'page.jpg', Buffer.from('<html><script>location="//elsewhere.example"</script></html>')],
  ['ends at its head', 'head.jpg', Buffer.from('ffd8ffe000104a46494600010101', 'hex')],
  ['says it has a name of two lines', 'a\nb\u0000.png', plainPng(9, 9, 'red')],
  ['a name that climbs', '../../../../etc/cron.d/x.png', plainPng(9, 9, 'red')],
  ['a very long name', `${'n'.repeat(4000)}.png`, plainPng(9, 9, 'red')],
]

/** An archive whose one file has a name of its own, as long as the one that is put in its place. */
const namedOtherwise = async (name: string): Promise<Buffer> =>
  Buffer.from((await makeZip({ ['A'.repeat(name.length)]: '# up' })).toString('latin1').replaceAll('A'.repeat(name.length), name), 'latin1')

const archives: readonly ByHand[] = [
  ['1 GB of nothing', () => makeZip({ 'a.png': Buffer.alloc(1_000_000_000) })],
  ['5,000 files', () => makeZip(Object.fromEntries(Array.from({ length: 5000 }, (_, n) => [`${String(n)}.md`, '# a'])))],
  ['an archive in an archive', async () => makeZip({ 'a.pdf': await makeZip({ 'a.md': '# a' }) })],
  ['a name that climbs', () => namedOtherwise('../../../../../../x/y.md')],
  ['a name that begins at the root', () => namedOtherwise('/tmp/aisle-hostile-wro.md')],
  ['its end alone', async () => (await makeZip({ 'a.md': '# a' })).subarray(-22)],
  ['its beginning alone', async () => (await makeZip({ 'a.md': '# a' })).subarray(0, 40)],
]

const texts: readonly (readonly [string, string])[] = [
  ['quoted 20,000 deep', `# a\n\n${'> '.repeat(20_000)}x\n`],
  ['lists 3,000 deep', `# a\n\n${Array.from({ length: 3000 }, (_, n) => `${'  '.repeat(n)}- x`).join('\n')}\n`],
  ['brackets that open', `# a\n\n${'['.repeat(100_000)}`],
  ['stars that never meet', `# a\n\n${'*a _b '.repeat(60_000)}`],
  ['ticks', `# a\n\n${'`'.repeat(90_000)}x`],
  ['10,000 slides', '## a\n\n'.repeat(10_000)],
  ['table of 5,000 columns', `# a\n\n|${' a |'.repeat(5000)}\n|${'---|'.repeat(5000)}\n|${' b |'.repeat(5000)}\n`],
  ['script', '# a\n\n<script>alert(1)</script>\n'],
  ['handler', '# a\n\n<img src=x onerror=alert(1)>\n'],
  ['link that runs', '# a\n\n[x](javascript:alert(1))\n'],
  ['picture from elsewhere', '# a\n\n![x](//elsewhere.example/x.png)\n'],
  ['picture from the disk', '# a\n\n![x](file:///etc/passwd)\n'],
  ['picture that climbs', '# a\n\n![x](../../../etc/passwd)\n'],
  ['one line of 3 MB', `# ${'a'.repeat(3_000_000)}`],
  ['marks that overlap', `# a\n\n${'\u202e\u0300'.repeat(20_000)}`],
  ['references to references', `# a\n\n${Array.from({ length: 4000 }, (_, n) => `[${String(n)}]: <${'a'.repeat(50)}>`).join('\n')}\n`],
]

const soundsByHand: readonly (readonly [string, string, Buffer])[] = [
  ['empty', 'empty.wav', Buffer.alloc(0)],
  ['a list of other files', 'list.wav', Buffer.from("ffconcat version 1.0\nfile '/etc/passwd'\n")],
  ['a playlist', 'list.mp3', Buffer.from('#EXTM3U\n#EXT-X-MEDIA-SEQUENCE:0\n#EXTINF:1.0,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n')],
  [
    'says it is 4 GB',
    'long.wav',
    Buffer.from('52494646ffffffff57415645666d74201000000001000100ffffffffffffffff0200100064617461ffffffff', 'hex'),
  ],
  [
    'no samples a second',
    'still.wav',
    Buffer.from('52494646240000005741564566 6d74201000000001000100000000000000000002001000646174610000 0000'.replaceAll(' ', ''), 'hex'),
  ],
  ['a tag of 256 MB', 'tag.mp3', Buffer.concat([Buffer.from('494433030000' + '7f7f7f7f', 'hex'), Buffer.alloc(2000)])],
  [
    'boxes in boxes',
    'boxes.m4a',
    Buffer.concat([
      Buffer.from('00000018667479704d344120000000004d3441206d703432', 'hex'),
      ...Array.from({ length: 2000 }, () => Buffer.from('00ffffff6d6f6f76', 'hex')),
    ]),
  ],
]

/** A recording whose pictures are very large. */
const hugePictures = async (): Promise<Buffer> =>
  (
    await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'color=c=red:s=6000x6000:r=2:d=1',
      '-f',
      'lavfi',
      '-i',
      'sine=duration=1',
      '-c:v',
      'libvpx',
      '-deadline',
      'realtime',
      '-cpu-used',
      '8',
      '-c:a',
      'libopus',
      '-f',
      'webm',
      'pipe:1',
    ])
  ).stdout

const recordings: readonly ByHand[] = [
  ['nothing that was recorded', () => Buffer.alloc(4000, 7)],
  ['its mark alone', () => Buffer.from('1a45dfa3', 'hex')],
  [
    'an element that never ends',
    () =>
      Buffer.concat([
        Buffer.from('1a45dfa39f4286810142f7810142f2810442f381084282847765626d42878104428581021853806701ffffffffffffff', 'hex'),
        Buffer.alloc(9000, 255),
      ]),
  ],
  ['a list of other files', () => Buffer.from("ffconcat version 1.0\nfile '/etc/passwd'\n")],
  ['pictures of 6,000 a side', hugePictures],
]

/** Bad inputs made by hand, each for a weakness that such files are known to look for. @param wanted their names; null: all */
export async function byHand(wanted: readonly string[] | null): Promise<readonly HostileInput[]> {
  const made = (door: Door, file: string, entries: readonly ByHand[]): readonly Promise<HostileInput>[] =>
    entries
      .filter(([name]) => wanted === null || wanted.includes(name))
      .map(async ([name, make]) => ({ name, door, file, bytes: await make() }))
  const ready = (bytes: Buffer | string) => (): Buffer => Buffer.from(bytes)
  return await Promise.all([
    ...made('deck', 'deck.pdf', pdfs),
    ...made('deck', 'deck.zip', archives),
    ...made(
      'deck',
      'deck.md',
      texts.map(([name, text]): ByHand => [name, ready(text)]),
    ),
    ...pictures.flatMap(([name, file, bytes]) =>
      (['deck', 'picture'] as const).flatMap((door) => made(door, file, [[name, ready(bytes)]])),
    ),
    ...soundsByHand.flatMap(([name, file, bytes]) => made('sound', file, [[name, ready(bytes)]])),
    ...made('recording', 'face.webm', recordings),
  ])
}
