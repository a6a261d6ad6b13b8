import type { DeckPage } from './slide-page'

const LINES: readonly (readonly [string, string])[] = [
  ['Why count by ear', '<p>At dusk you hear three times as many swifts as you see.</p>'],
  [
    'The scream',
    '<p>A high, thin trill, falling slightly at its end.</p><svg width="1280" height="720"><path d="M90 520C260 360 420 340 620 ' +
      '360S960 430 1040 500" fill="none" stroke="#7a3e9d" stroke-width="7"/></svg>',
  ],
  ['One bird or two', '<p>Answering calls overlap. A single bird never does.</p>'],
  ['Parties', '<p>Groups that race round the roofs scream together. Count the party first, then its birds.</p>'],
  [
    'The ten minute stand',
    '<ul><li>Stand still for ten minutes</li><li>Face the tower, back to the wind</li><li>Tap once for every call</li></ul>',
  ],
  [
    'From taps to birds',
    '<table><tr><th>taps</th><th>birds</th></tr><tr><td>10</td><td>4</td></tr><tr><td>25</td><td>9</td></tr><tr><td>60</td><td>' +
      '20</td></tr></table>',
  ],
  ['Not a swift', '<ul><li>House martins chatter</li><li>Starlings imitate: wait for the second call</li></ul>'],
  [
    'Our seven towers',
    '<svg width="1280" height="720">' +
      [150, 300, 430, 590, 720, 860, 990]
        .map(
          (x, n) =>
            `<rect x="${String(x)}" y="${String(330 - (n % 3) * 40)}" width="60" height="${String(270 + (n % 3) * 40)}" ` +
            `fill="#5a6b7b"/><text x="${String(x + 30)}" y="640" text-anchor="middle" font-size="24">${String(n + 1)}</text>`,
        )
        .join('') +
      '</svg>',
  ],
  [
    'Last year',
    '<svg width="1280" height="720">' +
      [62, 80, 74, 91, 88, 103]
        .map(
          (count, n) =>
            `<rect x="${String(160 + n * 130)}" y="${String(600 - count * 3.6)}" width="80" height="${String(count * 3.6)}" ` +
            `fill="#7a3e9d"/><text x="${String(200 + n * 130)}" y="${String(588 - count * 3.6)}" text-anchor="middle" ` +
            `font-size="26">${String(count)}</text><text x="${String(200 + n * 130)}" y="640" text-anchor="middle" ` +
            `font-size="22">week ${String(n + 1)}</text>`,
        )
        .join('') +
      '</svg>',
  ],
  ['Write it down', '<p>Place, minute, wind, taps. Nothing else.</p><p class="soft">The sheet is in the box at the bell tower.</p>'],
]

export const swiftsDeck: readonly DeckPage[] = [
  {
    label: '1',
    html:
      '<section class="deep" style="background:#2c2340"><div style="margin-top:200px"><h1 style="font-size:84px">Counting ' +
      "swifts by ear</h1><p>The town's bird-watchers, spring meeting</p></div></section>",
  },
  ...LINES.map(([title, body], n) => ({
    label: String(n + 2),
    html: `<section style="background:#faf7fb"><h2>${title}</h2>${body}</section>`,
  })),
  {
    label: '12',
    html:
      '<section class="deep" style="background:#2c2340"><h2>Come on Thursday</h2><p>Half past eight, at the bell tower. ' +
      'Bring a pencil.</p></section>',
  },
]
