import type { DeckPage } from './slide-page'

const LOW = { x: 130, y: 560 }
const HIGH = { x: 1010, y: 190 }

/** The height of the tide between low and high water, six hours long, drawn as half a cosine. */
export const tideAt = (hour: number): { x: number; y: number } => ({
  x: LOW.x + ((HIGH.x - LOW.x) * hour) / 6,
  y: LOW.y + ((HIGH.y - LOW.y) * (1 - Math.cos((Math.PI * hour) / 6))) / 2,
})

const curve = (): string =>
  Array.from({ length: 61 }, (_, n) => {
    const { x, y } = tideAt(n / 10)
    return `${n === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`
  }).join('')

const hours = (): string =>
  Array.from({ length: 7 }, (_, hour) => {
    const { x } = tideAt(hour)
    return (
      `<line x1="${String(x)}" x2="${String(x)}" y1="${String(LOW.y)}" y2="${String(LOW.y + 12)}" stroke="#17303f" ` +
      `stroke-width="2"/><text x="${String(x)}" y="${String(LOW.y + 42)}" text-anchor="middle" font-size="22">${String(hour)} h</text>`
    )
  }).join('')

const chart = (more: string): string => `<svg width="1280" height="720">
  <line x1="${String(LOW.x)}" x2="1060" y1="${String(LOW.y)}" y2="${String(LOW.y)}" stroke="#17303f" stroke-width="2"/>${hours()}
  <path d="${curve()}" fill="none" stroke="#2b7f8f" stroke-width="6"/>${more}</svg>`

const SHARES = [1, 2, 3, 3, 2, 1]

const bars = (shown: number): string =>
  `<svg width="1280" height="720">${SHARES.map((share, n) => {
    const x = 150 + n * 140
    const height = share * 105
    return n < shown
      ? `<rect x="${String(x)}" y="${String(560 - height)}" width="104" height="${String(height)}" fill="#2b7f8f"/><text ` +
          `x="${String(x + 52)}" y="${String(545 - height)}" text-anchor="middle" font-size="34" ` +
          `font-weight="600">${String(share)}</text><text x="${String(x + 52)}" y="598" text-anchor="middle" font-size="22">hour ` +
          `${String(n + 1)}</text>`
      : `<text x="${String(x + 52)}" y="598" text-anchor="middle" font-size="22" opacity=".45">hour ${String(n + 1)}</text>`
  }).join('')}<line x1="130" x2="1000" y1="560" y2="560" stroke="#17303f" stroke-width="2"/></svg>`

const heights = ['0.8', '1.2', '2.0', '3.2', '4.4', '5.2', '5.6']

const hourRow = (height: string, hour: number): string => {
  const rise = hour === 0 ? '' : `${String(SHARES[hour - 1])} × 0.4`
  return `<tr><td>${String(hour)}</td><td>${rise}</td><td>${height} m</td></tr>`
}

export const twelfthsDeck: readonly DeckPage[] = [
  {
    label: '1',
    html:
      `<section class="deep"><div style="margin-top:190px"><h1 style="font-size:84px">The rule of twelfths</h1><p>Tides, ` +
      `second lesson. Harbour school</p></div></section>`,
  },
  {
    label: '2',
    html:
      `<section><h2>How deep will it be at nine?</h2><p>Low water was at six, with 0.8 m over the sill.</p><p>High water ` +
      `comes at noon, with 5.6 m.</p><p style="margin-top:40px;font-weight:600">Our boat needs 2.6 m to go out.</p><svg ` +
      `width="1280" height="720"><path d="M0 640 Q160 616 320 640 T640 640 T960 640 T1280 640 V720 H0Z" fill="#bcdcdc"/></svg></section>`,
  },
  { label: '3', html: `<section><h2>The tide does not rise evenly</h2>${chart('')}</section>` },
  ...[2, 4, 6].map((shown) => ({ label: '4', html: `<section><h2>One, two, three, three, two, one</h2>${bars(shown)}</section>` })),
  {
    label: '5',
    html:
      `<section><h2>A worked sum</h2><table><tr><td>high water</td><td>5.6 m</td></tr><tr><td>low water</td><td>0.8 ` +
      `m</td></tr><tr><td>range</td><td></td></tr><tr><td>a twelfth</td><td></td></tr></table></section>`,
  },
  {
    label: '6',
    html:
      '<section><h2>Hour by hour</h2><table><tr><th>hour</th><th>rises by</th><th>depth over the sill</th></tr>' +
      `${heights.map(hourRow).join('')}</table></section>`,
  },
  {
    label: '7',
    html:
      `<section><h2>So, at nine?</h2><p>Three hours after low water:</p><p>1 + 2 + 3 = 6 twelfths, half the range.</p><p ` +
      `style="font:700 64px Display;margin-top:34px">0.8 + 2.4 = 3.2 m</p><p>Enough. She floats with 0.6 m to spare.</p></section>`,
  },
  {
    label: '8',
    html:
      `<section><h2>When the rule lies</h2><ul><li>Where high water comes twice, as behind large islands</li><li>Up rivers, ` +
      `where the flood is short and steep</li><li>In a storm, or under very high air pressure</li></ul><p style="margin-top:30px" ` +
      `class="soft">Then use the tide tables of your own harbour.</p></section>`,
  },
  {
    label: '9',
    html:
      `<section class="deep"><h2>Take home</h2><ul><li>Range first, then divide by twelve</li><li>One, two, three, three, ` +
      `two, one</li><li>Keep half a metre in hand</li></ul></section>`,
  },
]
