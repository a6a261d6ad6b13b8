import { createReadStream } from 'node:fs'
import { readFile, stat } from 'node:fs/promises'
import type { IncomingMessage, ServerResponse } from 'node:http'
import Joi from 'joi'
import { escape, listOf, pageOf } from '../page'
import { html } from '../service'
import type { ServiceKind } from '../service'
import { lookInto } from '../look-into'
import type { Package, PackageStore } from '../package-store'

const NAME = 'Saltmarsh Pictures'
const LOOK = `body { background: #10201f; color: #eef4ee; font-family: system-ui, sans-serif; max-width: 860px; }
a { color: #9fd8c4; }
button { border: 0; border-radius: 18px; background: #c9e265; color: #10201f; }
.bad { border: 1px solid #ef8d7a; padding: 10px 16px; }
li { margin: 6px 0; }`

/** What is said of a film; by a form chapters come in none. */
interface Notes {
  readonly title: string
  readonly description: string
  readonly audience: 'everybody' | 'link' | 'nobody'
  readonly chapters: readonly { readonly title: string; readonly start: number }[]
}
const schema = Joi.object<Notes>({
  title: Joi.string().trim().min(1).max(100).required(),
  description: Joi.string().allow('').max(4000).default(''),
  audience: Joi.valid('everybody', 'link', 'nobody').default('nobody'),
  chapters: Joi.array()
    .items(Joi.object({ title: Joi.string().allow('').required(), start: Joi.number().min(0).required() }))
    .default([]),
})

const notesOf = ({ notes }: Pick<Package, 'notes'>): Notes | null => {
  const { value, error } = schema.validate(notes)
  return error === undefined ? value : null
}

const clock = (ms: number): string => `${String(Math.floor(ms / 60_000))}:${String(Math.floor((ms % 60_000) / 1000)).padStart(2, '0')}`

function filmPage(one: Package, notes: Notes): string {
  const chapters = notes.chapters.map(
    ({ title, start }) =>
      `<li><a href="#t=${String(start / 1000)}" data-at="${String(start / 1000)}">${clock(start)} ${escape(title)}</a></li>`,
  )
  const track = one.arrived['captions'] === undefined ? '' : `<track kind="captions" src="/site/films/${one.id}/captions" default>`
  return pageOf(
    notes.title,
    LOOK,
    `<p><a href="/site">${NAME}</a></p><h1>${escape(notes.title)}</h1>
<video controls src="/site/films/${one.id}/film">${track}</video>
<p>${escape(notes.description)}</p><ol>${chapters.join('')}</ol>
<script>for (const link of document.querySelectorAll('[data-at]')) link.onclick = (event) => {
  event.preventDefault(); document.querySelector('video').currentTime = Number(link.dataset.at) }</script>`,
  )
}

async function listPage(store: PackageStore): Promise<string> {
  const films = (await store.all()).flatMap((one) => {
    const notes = one.end?.kind === 'taken' ? notesOf(one) : null
    return notes?.audience === 'everybody' ? [`<li><a href="/site/films/${one.id}">${escape(notes.title)}</a></li>`] : []
  })
  return pageOf(
    NAME,
    LOOK,
    `<h1>${NAME}</h1><ul>${films.join('') || '<li>Nothing is shown to everybody yet.</li>'}</ul>
<form method="post" action="/site/form" enctype="multipart/form-data">
<label>Title <input name="title" required></label><label>Description <textarea name="description"></textarea></label>
<label>Who may see it <select name="audience"><option value="everybody">everybody</option><option value="link">who has the link</option>
<option value="nobody">nobody</option></select></label>
<label>Film <input type="file" name="film" required></label><label>Captions (WebVTT) <input type="file" name="captions"></label>
<button>Put it here</button></form>
<p class="note">A stand-in that came with the program, to practise on. Nobody else sees it.</p>`,
  )
}

/** Sends a file, or the part of it that is asked for (RFC 9110, 14.2). */
async function sendPart(path: string, type: string, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { size } = await stat(path)
  const [, first, last] = /^bytes=(\d+)-(\d*)$/.exec(request.headers.range ?? '') ?? []
  const from = Math.min(Number(first ?? 0), size)
  const to = last === undefined || last === '' ? size - 1 : Math.min(Number(last), size - 1)
  response.writeHead(first === undefined ? 200 : 206, {
    'content-type': type,
    'accept-ranges': 'bytes',
    'content-length': to - from + 1,
    ...(first === undefined ? {} : { 'content-range': `bytes ${String(from)}-${String(to)}/${String(size)}` }),
  })
  createReadStream(path, { start: from, end: to }).pipe(response)
}

const isVtt = async (path: string): Promise<boolean> => /^\uFEFF?WEBVTT\b/.test(await readFile(path, 'utf8'))

/** A film that may be seen, with what is said of it; null: there is none. */
async function shownFilm(store: PackageStore, id: string): Promise<{ readonly one: Package; readonly notes: Notes } | null> {
  const one = await store.find(id)
  const notes = one?.end?.kind === 'taken' ? notesOf(one) : null
  return one === null || notes === null || notes.audience === 'nobody' ? null : { one, notes }
}

/** Answers for a film and what belongs to it, to everybody but where nobody may see it. */
async function showFilm(at: string, response: ServerResponse, store: PackageStore, request: IncomingMessage): Promise<boolean> {
  const [, id = '', , what] = /^\/films\/([\w-]+)(\/(film|captions))?$/.exec(at) ?? []
  const shown = await shownFilm(store, id)
  if (shown === null) return false
  const { one, notes } = shown
  if (what === undefined) {
    html(response, 200, filmPage(one, notes))
    return true
  }
  const path = store.fileOf(one, what === 'film' ? 'film' : 'captions')
  if (path !== null) await sendPart(path, what === 'film' ? 'video/mp4' : 'text/vtt; charset=utf-8', request, response)
  return path !== null
}

/** A site on which films are shown. */
export const SITE: ServiceKind = {
  path: '/site',
  before: (announced) => (notesOf(announced) === null ? ['A film needs a title of at most 100 signs.'] : []),
  examine: async (_, fileOf) => {
    const path = fileOf('film')
    const found = path === null ? null : await lookInto(path).catch(() => null)
    const captions = fileOf('captions')
    return [
      ...(found?.video == null ? ['This is no film.'] : []),
      ...(captions !== null && !(await isVtt(captions)) ? ['The captions are no WebVTT file.'] : []),
    ]
  },
  pageOf: (one, base) => `${base}/films/${one.id}`,
  answerForm: (end) =>
    pageOf(
      NAME,
      LOOK,
      end.kind === 'taken'
        ? `<h1>It is here</h1><p><a href="${escape(end.receipt.page ?? '/site')}">Look at it</a></p>`
        : `<h1>Not taken</h1>${listOf(end.refused, 'bad')}`,
    ),
  show: async (at, response, store, request) => {
    if (at === '' || at === '/') {
      html(response, 200, await listPage(store))
      return true
    }
    return await showFilm(at, response, store, request)
  },
}
