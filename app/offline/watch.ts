import type { BundleTalk } from '@core/bundle'
import { visitAt } from '@core/screening'
import type { Ms } from '@core/model'
import type { ViewersFilm } from '@contracts'
import { addControls } from './controls'
import { DrawnPicture } from './drawn-picture'
import { addFinder } from './finder'
import { dataOf, part, say, timedButtons } from './page-parts'
import { Playback, SilentClock } from './playback'
import type { Clock } from './playback'

const missing = (file: string): string =>
  `“${file}” is missing from this folder. Copy the whole folder again, all files of it. What can be read is below.`

/** What plays in this page. */
function clockOf(talk: BundleTalk): Clock {
  const { media } = talk
  if (media === null) return new SilentClock(talk.length)
  const element = part('media', HTMLMediaElement)
  const failed = (): void => {
    const unknown = element.error?.code === MediaError.MEDIA_ERR_DECODE
    say(unknown ? 'This browser cannot play this talk. Try another browser; what can be read is below.' : missing(media.file))
  }
  element.addEventListener('error', failed)
  // It may have failed before this script ran.
  if (element.error !== null) failed()
  return element
}

/** Puts the browser's own controls away: an old one that comes to grief before this has them still. */
function putAwayControls(clock: Clock): void {
  if (!(clock instanceof HTMLMediaElement)) return
  clock.controls = false
  if (clock instanceof HTMLAudioElement) clock.hidden = true
}

/** The slides, to be drawn; null where a film shows them. */
function drawnPicture(): DrawnPicture | null {
  const film = dataOf<ViewersFilm>('drawn')
  if (film === null) return null
  return new DrawnPicture(part('canvas', HTMLCanvasElement), film, (file) => {
    say(missing(file))
  })
}

/** Shows which slide and which sentence is on. */
function follower(talk: BundleTalk): (at: Ms) => void {
  const slabs = [...document.querySelectorAll<HTMLElement>('.slab')]
  const rows = [...document.querySelectorAll<HTMLElement>('#programme > li')]
  const lines = [...document.querySelectorAll<HTMLElement>('#said > li')]
  const list = document.getElementById('said')
  const place = part('place', HTMLElement)
  let [visitBefore, lineBefore] = [-2, -2]
  return (at) => {
    place.style.left = `${String((at / Math.max(1, talk.length)) * 100)}%`
    const visit = talk.visits.findIndex(({ id }) => id === visitAt(talk.visits, at)?.id)
    if (visit !== visitBefore) {
      for (const [n, slab] of slabs.entries()) {
        if (n === visit) slab.setAttribute('aria-current', 'step')
        else slab.removeAttribute('aria-current')
      }
      for (const [n, row] of rows.entries()) row.classList.toggle('current', n === visit)
      visitBefore = visit
    }
    const line = talk.said.findIndex((one, n) => one.from <= at && (talk.said[n + 1]?.from ?? Infinity) > at)
    if (line === lineBefore) return
    for (const [n, one] of lines.entries()) one.classList.toggle('current', n === line)
    const shown = lines[line]
    if (list !== null && shown !== undefined) list.scrollTop = shown.offsetTop - list.clientHeight / 3
    lineBefore = line
  }
}

/** Keys that play the talk, where no field or button has them. */
function hearKeys(playback: Playback, finder: HTMLInputElement): void {
  const acts: Readonly<Record<string, () => void>> = {
    ' ': () => {
      playback.toggle()
    },
    ArrowRight: () => {
      playback.seek(playback.at + 5000)
    },
    ArrowLeft: () => {
      playback.seek(playback.at - 5000)
    },
    PageDown: () => {
      playback.goBy(1)
    },
    PageUp: () => {
      playback.goBy(-1)
    },
    '/': () => {
      finder.focus()
    },
  }
  document.addEventListener('keydown', (event) => {
    const act = acts[event.key]
    const { target } = event
    const taken = target instanceof HTMLInputElement || target instanceof HTMLSelectElement
    if (act === undefined || taken || event.ctrlKey || event.metaKey || event.altKey) return
    if (event.key === ' ' && target instanceof HTMLButtonElement) return
    event.preventDefault()
    act()
  })
}

function begin(): void {
  const talk = dataOf<BundleTalk>('talk')
  if (talk === null) throw new Error('the page has no talk')
  const picture = drawnPicture()
  const clock = clockOf(talk)
  const follow = follower(talk)
  let showTime = (_: Ms): void => undefined
  const playback = new Playback(talk, clock, (at) => {
    picture?.draw(at)
    follow(at)
    showTime(at)
  })
  showTime = addControls(talk, playback)
  const finder = addFinder(talk)
  hearKeys(playback, finder)
  for (const { button, at } of timedButtons(document))
    button.addEventListener('click', () => {
      playback.seek(at)
    })
  if (clock instanceof HTMLMediaElement)
    for (const event of ['play', 'pause', 'seeked', 'ended', 'loadeddata']) clock.addEventListener(event, playback.look)
  part('stage', HTMLDivElement).addEventListener('click', () => {
    playback.toggle()
  })
  for (const image of document.querySelectorAll('img'))
    image.addEventListener('error', () => {
      say(missing(decodeURIComponent(image.getAttribute('src') ?? '')))
    })
  playback.seek(0)
  putAwayControls(clock)
  if (picture !== null) {
    part('still', HTMLImageElement).hidden = true
    part('canvas', HTMLCanvasElement).hidden = false
  }
}

try {
  begin()
} catch (error) {
  // What the page has without this script is all there.
  console.error(error)
}
