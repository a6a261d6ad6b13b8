import { clockText } from '@core/formats'
import type { BundleTalk } from '@core/bundle'
import type { Ms } from '@core/model'
import type { Playback } from './playback'
import { part } from './page-parts'

const SPEEDS = [0.75, 1, 1.25, 1.5, 2]

function press(says: string, act: () => void): HTMLButtonElement {
  const button = document.createElement('button')
  button.type = 'button'
  button.textContent = says
  button.addEventListener('click', act)
  return button
}

function tick(says: string, change: (on: boolean) => void): HTMLLabelElement {
  const label = document.createElement('label')
  const box = document.createElement('input')
  box.type = 'checkbox'
  box.addEventListener('change', () => {
    change(box.checked)
  })
  label.append(box, says)
  return label
}

function speeds(playback: Playback): HTMLSelectElement {
  const select = document.createElement('select')
  select.setAttribute('aria-label', 'Speed')
  for (const speed of SPEEDS) {
    const option = document.createElement('option')
    option.value = String(speed)
    option.textContent = `${String(speed)}×`
    option.selected = speed === 1
    select.append(option)
  }
  select.addEventListener('change', () => {
    playback.speed = Number(select.value)
  })
  return select
}

/** Adds what plays the talk with. @returns shows a time */
export function addControls(talk: BundleTalk, playback: Playback): (at: Ms) => void {
  const controls = part('controls', HTMLDivElement)
  const toggle = press('Play', () => {
    playback.toggle()
  })
  toggle.className = 'main'
  const time = document.createElement('span')
  time.className = 'clock'
  const caption = part('caption', HTMLParagraphElement)
  let captioned = false
  const showCaption = (at: Ms): void => {
    const now = captioned ? talk.captions.find(({ from, until }) => at >= from && at < until) : undefined
    caption.hidden = now === undefined
    caption.textContent = now?.lines.join('\n') ?? ''
  }
  const stage = part('stage', HTMLDivElement)
  controls.append(
    toggle,
    press('‹ Slide', () => {
      playback.goBy(-1)
    }),
    press('Slide ›', () => {
      playback.goBy(1)
    }),
    time,
    speeds(playback),
    tick('Wait at each slide', (on) => {
      playback.waits = on
    }),
    ...(talk.captions.length === 0
      ? []
      : [
          tick('Captions', (on) => {
            captioned = on
            showCaption(playback.at)
          }),
        ]),
    ...(typeof stage.requestFullscreen === 'function'
      ? [press('Whole screen', () => void stage.requestFullscreen().catch(() => undefined))]
      : []),
  )
  controls.hidden = false
  return (at) => {
    toggle.textContent = playback.playing ? 'Pause' : 'Play'
    time.textContent = `${clockText(at)} of ${clockText(talk.length)}`
    showCaption(at)
  }
}
