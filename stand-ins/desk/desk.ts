import type { Rules } from '@core/rules'
import { escape, listOf, pageOf } from '../page'
import { html } from '../service'
import type { ServiceKind } from '../service'
import type { Package } from '../package-store'
import { examine } from './examine'

const LOOK = `body { background: #f3efe4; color: #1d2b2a; }
h1 { border-bottom: 3px double #7d5a2b; font-size: 27px; }
button { border: 0; background: #7d5a2b; color: #fff; }
.bad { padding: 10px 16px; border-left: 4px solid #9d2b1f; background: #fff; }
.good { padding: 10px 16px; border-left: 4px solid #2c6b4f; background: #fff; }`

const FILES = [
  { role: 'film', label: 'Talk', needed: true },
  { role: 'captions', label: 'Captions (WebVTT)', needed: false },
  { role: 'transcript', label: 'Transcript', needed: false },
  { role: 'cover', label: 'Cover', needed: false },
] as const

/** What is asked, as people read it. */
function asked({ length, bytes, lines, shape, rates, fileName, tries }: Rules): string {
  const items = [
    length?.most === undefined
      ? null
      : `At most ${String(length.most / 60)} minutes${length.least === undefined ? '' : `, at least ${String(length.least)} seconds`}.`,
    bytes === undefined ? null : `At most ${String(bytes / 1e6)} MB.`,
    lines === undefined ? null : `${String(lines.least ?? 'any')} to ${String(lines.most ?? 'any')} lines.`,
    shape === undefined ? null : `A picture of ${String(shape.width)} to ${String(shape.height)}.`,
    rates === undefined ? null : `${rates.join(' or ')} frames a second.`,
    fileName === undefined ? null : `Named ${fileName}.`,
    tries === undefined ? null : `At most ${String(tries)} tries for each paper.`,
  ]
  return items.flatMap((item) => (item === null ? [] : [`<li>${escape(item)}</li>`])).join('')
}

const form = (rules: Rules): string => `<h1>${escape(rules.name)}</h1>
<p>${escape(rules.about ?? '')}</p>
<ul>${asked(rules)}</ul>
<form method="post" action="/desk/form" enctype="multipart/form-data">
${(rules.fields ?? []).map(({ key, label }) => `<label>${escape(label)} <input name="${escape(key)}" required></label>`).join('')}
${FILES.map(({ role, label, needed }) => `<label>${label} <input type="file" name="${role}"${needed ? ' required' : ''}></label>`).join('')}
<button>Hand in</button>
</form>
<p class="note">The rules as a document: <a href="/desk/rules.json">rules.json</a>. This desk is a stand-in that came with the program:
it looks into what it gets as a real one would, and nobody reads it.</p>`

/** What was filled in, by which tries are counted. */
const nameOf = (rules: Rules, notes: Package['notes']): string => JSON.stringify((rules.fields ?? []).map(({ key }) => notes[key] ?? ''))

/** A desk that takes talks by rules. @param now ms since 1970 */
export const desk = (rules: Rules, now: () => number): ServiceKind => ({
  path: '/desk',
  before: ({ notes }, all) => {
    if (rules.until !== undefined && now() > Date.parse(rules.until)) return [`Nothing is taken after ${rules.until}.`]
    const name = nameOf(rules, notes)
    const tried = all.filter((one) => one.end !== null && nameOf(rules, one.notes) === name).length
    return rules.tries !== undefined && tried >= rules.tries ? [`${String(rules.tries)} tries were made.`] : []
  },
  examine: (one, fileOf) => examine(rules, one, fileOf),
  pageOf: (one, base) => `${base}/receipts/${one.id}`,
  answerForm: (end) =>
    pageOf(
      rules.name,
      LOOK,
      end.kind === 'taken'
        ? `<h1>Thank you</h1><p class="good">Your talk is here. Receipt <b>${escape(end.receipt.number)}</b>.</p>`
        : `<h1>Not taken</h1>${listOf(end.refused, 'bad')}<p><a href="/desk">Back</a></p>`,
    ),
  show: async (at, response, store) => {
    if (at === '' || at === '/') html(response, 200, pageOf(rules.name, LOOK, form(rules)))
    else if (at === '/rules.json') response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(rules))
    else {
      const one = await store.find(/^\/receipts\/([\w-]+)$/.exec(at)?.[1] ?? '')
      if (one?.end?.kind !== 'taken') return false
      const { number, at: when } = one.end.receipt
      const files = one.files.map(({ name, sha256 }) => `<li>${escape(name)} <code class="note">${escape(sha256)}</code></li>`).join('')
      html(
        response,
        200,
        pageOf(rules.name, LOOK, `<h1>Receipt ${escape(number)}</h1><p class="good">Taken on ${escape(when)}.</p><ul>${files}</ul>`),
      )
    }
    return true
  },
})
