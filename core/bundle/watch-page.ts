import { clockText, escapeMarkup } from '@core/formats'
import type { ScreenedVisit } from '@core/screening'
import type { BundleSlide, BundleTalk } from './bundle-talk'

/** What the page is made of besides the talk. */
export interface WatchPageParts {
  readonly talk: BundleTalk
  /** What its script needs besides: the film whose slides are drawn; null: there is a film file. */
  readonly drawn: object | null
  readonly script: string
  readonly style: string
}

/** JSON that can stand in a page: nothing in it ends its element. */
const inPage = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c')
/** Likewise a script. */
const scriptInPage = (script: string): string => script.replaceAll('</script', '<\\/script')

/** A path in the bundle as an address: signs in names of files may mean something there. */
const addressOf = (file: string): string => file.split('/').map(encodeURIComponent).join('/')

const nameOf = ({ title, number }: { readonly title: string; readonly number: number }): string =>
  title.trim() === '' ? `Slide ${String(number)}` : title

function stageOf({ media, slides }: BundleTalk): string {
  const poster = slides[0]?.picture ?? ''
  if (media?.kind === 'film')
    return `<video id="media" controls playsinline preload="metadata" src="${addressOf(media.file)}" poster="${addressOf(poster)}"></video>`
  const picture = `<img id="still" src="${addressOf(poster)}" alt=""><canvas id="canvas" hidden></canvas>`
  return media === null ? picture : `${picture}<audio id="media" controls preload="auto" src="${addressOf(media.file)}"></audio>`
}

const slab = (visit: ScreenedVisit): string =>
  `<li style="flex-grow:${String(visit.length)}"><button type="button" class="slab" data-at="${String(visit.start)}" ` +
  `aria-label="${escapeMarkup(`Slide ${String(visit.number)}, ${nameOf(visit)}, at ${clockText(visit.start)}`)}">` +
  `<span>${String(visit.number)}</span></button></li>`

/** A visit in the programme; the words of its slide stand at its first showing. */
function row(visit: ScreenedVisit, slide: BundleSlide | undefined, isFirst: boolean): string {
  if (slide === undefined) return ''
  const { text, viewerNotes, description, links } = slide
  const words = [
    ...(viewerNotes === '' ? [] : [`<p class="note">${escapeMarkup(viewerNotes)}</p>`]),
    ...(description === '' ? [] : [`<p class="description">${escapeMarkup(description)}</p>`]),
    ...links.map((link) => `<p><a href="${escapeMarkup(link)}" rel="noopener noreferrer" target="_blank">${escapeMarkup(link)}</a></p>`),
    ...(text === '' ? [] : [`<details><summary>All words on it</summary><p class="text">${escapeMarkup(text)}</p></details>`]),
  ]
  return (
    `<li data-visit="${escapeMarkup(visit.id)}" data-slide="${escapeMarkup(slide.id)}"><button type="button" class="go" ` +
    `data-at="${String(visit.start)}"><img src="${addressOf(slide.picture)}" alt="" loading="lazy">` +
    `<span class="name"><small>${String(visit.number)}</small> ${escapeMarkup(nameOf(visit))}<span class="hit"></span></span>` +
    `<span class="clock">${clockText(visit.start)}</span></button>${isFirst ? `<div class="words">${words.join('')}</div>` : ''}</li>`
  )
}

function programme({ visits, slides }: BundleTalk): string {
  const bySlide = new Map(slides.map((slide) => [slide.id, slide]))
  const first = new Map([...visits].reverse().map(({ slide, id }) => [slide, id]))
  return visits.map((visit) => row(visit, bySlide.get(visit.slide), first.get(visit.slide) === visit.id)).join('\n')
}

const saidLines = ({ said }: BundleTalk): string =>
  said
    .map(
      ({ from, words }) =>
        `<li><button type="button" class="line" data-at="${String(from)}"><span class="clock">${clockText(from)}</span> ` +
        `${escapeMarkup(words)}</button></li>`,
    )
    .join('\n')

const saidPart = (talk: BundleTalk): string =>
  talk.said.length === 0
    ? ''
    : `<section aria-labelledby="said-title"><h2 id="said-title">What is said</h2><ol id="said">\n${saidLines(talk)}\n</ol></section>`

const takeAlong = ({ files }: BundleTalk): string =>
  files.length === 0
    ? ''
    : `<section aria-labelledby="files"><h2 id="files">In this folder</h2><ul class="files">${files
        .map(({ file, says }) => `<li><a href="${addressOf(file)}">${escapeMarkup(says)}</a></li>`)
        .join('')}</ul></section>`

/**
 * The page of a bundle: it plays a talk from a folder, without a server and without asking anybody for anything. All of it can be read
 * and played without its script; with it the talk goes along with its slides and words.
 */
export function watchPage({ talk, drawn, script, style }: WatchPageParts): string {
  const by = [talk.presenter, clockText(talk.length)].filter((part) => part !== '').join(', ')
  return `<!doctype html>
<html lang="${escapeMarkup(talk.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<title>${escapeMarkup(talk.title)}</title>
<style>${style}</style>
</head>
<body>
<header><h1>${escapeMarkup(talk.title)}</h1><p class="by">${escapeMarkup(by)}</p></header>
<main>
<p id="trouble" class="notice" role="alert" hidden></p>
<div id="stage">${stageOf(talk)}<p id="caption" hidden></p></div>
<div id="controls" hidden></div>
<nav aria-label="Slides along the talk" id="aisle"><ol>${talk.visits.map(slab).join('')}</ol><i id="place" aria-hidden="true"></i></nav>
${talk.description === '' ? '' : `<p class="about">${escapeMarkup(talk.description)}</p>`}
<div class="below">
<section aria-labelledby="programme-title"><div class="top"><h2 id="programme-title">Programme</h2><span id="finder"></span></div>
<p id="found" class="soft" role="status" hidden></p>
<ol id="programme">
${programme(talk)}
</ol></section>
<aside>
${saidPart(talk)}
${takeAlong(talk)}
</aside>
</div>
</main>
<script type="application/json" id="talk">${inPage(talk)}</script>
${drawn === null ? '' : `<script type="application/json" id="drawn">${inPage(drawn)}</script>`}
<script>${scriptInPage(script)}</script>
</body>
</html>
`
}
