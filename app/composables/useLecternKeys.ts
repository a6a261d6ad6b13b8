import { useEventListener } from '@vueuse/core'
import { INK_COLOURS } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useOpenWindow } from '~/stores/open-window'
import { useWindowPress } from './useWindowPress'

export interface LecternKeys {
  readonly record: () => void
  readonly stop: () => void
  readonly notes: () => void
  readonly line: (by: number) => void
  readonly grow: (by: number) => void
  readonly help: () => void
  readonly jump: () => void
  readonly moves: () => void
  /** Whether a dialog is open that takes the keys. */
  readonly busy: () => boolean
}

/** Our keys at the Lectern, listed for the person. */
export const KEY_WORDS: readonly (readonly [string, string])[] = [
  ['→ or Space', 'next step or slide'],
  ['←', 'back'],
  ['↑ ↓', 'move the notes by a line'],
  ['+ −', 'notes larger or smaller'],
  ['A', 'notes move by hand, at your pace or with your voice'],
  ['N', 'all the notes, and back'],
  ['G', 'all slides, to go to any'],
  ['P', 'pause and go on'],
  ['Esc', 'stop (asks first)'],
  ['D', 'pen'],
  ['L', 'marker'],
  ['E', 'eraser'],
  ['O', 'pointer spot'],
  ['V', 'click to go on'],
  ['T', 'label: click, then type'],
  ['1 to 6', 'ink colour'],
  ['W', 'pen width'],
  ['Z', 'take back the last stroke'],
  ['X', 'wipe this slide'],
  ['Q', 'show a window, and back to the slides'],
  ['B', 'blank the screen'],
  ['I', 'hide or show your face for viewers'],
  ['C', 'stop or start the camera itself'],
  ['H', 'hide or show your face for yourself alone'],
  ['M', 'mute and unmute'],
  ['F', 'play or halt the clip on the slide'],
  ['K', 'skip the clip to its end'],
  ['S', 'mark a stumble'],
  ['R', 'record'],
]

/** Keys of presenters' remotes. */
const CLICKER: ReadonlySet<string> = new Set(['PageDown', 'PageUp'])

/** Listens for keys and clickers, wherever the focus is. */
export function useLecternKeys(to: LecternKeys): void {
  const lectern = useLectern()
  const devices = useDevices()
  const windows = useOpenWindow()

  const actions: Readonly<Record<string, (stamp: number) => void>> = {
    ArrowRight: (stamp) => {
      lectern.forward(stamp)
    },
    PageDown: (stamp) => {
      lectern.forward(stamp)
    },
    ' ': (stamp) => {
      lectern.forward(stamp)
    },
    ArrowLeft: (stamp) => {
      lectern.back(stamp)
    },
    PageUp: (stamp) => {
      lectern.back(stamp)
    },
    ArrowDown: () => {
      to.line(1)
    },
    ArrowUp: () => {
      to.line(-1)
    },
    '+': () => {
      to.grow(2)
    },
    '-': () => {
      to.grow(-2)
    },
    n: to.notes,
    p: () => {
      void (lectern.live ? lectern.pause() : lectern.resume())
    },
    Escape: () => {
      if (lectern.phase === 'countdown') lectern.cancelCountdown()
      else to.stop()
    },
    F5: to.record,
    r: to.record,
    d: () => {
      lectern.tool = 'pen'
    },
    l: () => {
      lectern.tool = 'marker'
    },
    e: () => {
      lectern.tool = 'eraser'
    },
    o: () => {
      lectern.tool = 'spot'
    },
    m: (stamp) => {
      lectern.setMuted(!lectern.muted, stamp)
    },
    s: (stamp) => {
      lectern.stumble(stamp)
    },
    f: (stamp) => {
      const clip = lectern.currentClip(stamp)
      if (clip !== null) lectern.toggleClip(clip, stamp)
    },
    k: (stamp) => {
      const clip = lectern.currentClip(stamp)
      if (clip !== null) lectern.skipClip(clip, stamp)
    },
    t: () => {
      lectern.tool = 'label'
    },
    q: useWindowPress(),
    v: () => {
      lectern.tool = 'hand'
    },
    a: to.moves,
    g: to.jump,
    c: () => {
      void lectern.setCamera(!devices.cameraOn)
    },
    w: () => {
      lectern.width = lectern.width === 'fine' ? 'broad' : 'fine'
    },
    z: (stamp) => {
      lectern.undoStroke(stamp)
    },
    x: (stamp) => {
      lectern.wipe(stamp)
    },
    b: (stamp) => {
      lectern.setBlank(!lectern.blank, stamp)
    },
    '.': (stamp) => {
      lectern.setBlank(!lectern.blank, stamp)
    },
    i: (stamp) => {
      lectern.setInset(!lectern.inset, stamp)
    },
    h: () => {
      lectern.preview = !lectern.preview
    },
    '?': to.help,
  }

  /** What a key does; a figure takes that colour. */
  function actionOf(key: string): ((stamp: number) => void) | undefined {
    const colour = INK_COLOURS[Number(key) - 1]
    if (colour === undefined) return actions[key]
    return () => {
      lectern.colour = colour
      if (lectern.tool !== 'marker' && lectern.tool !== 'label') lectern.tool = 'pen'
    }
  }

  /** Whether a key is meant for what is shown, not for a field or a dialog. */
  function isForLectern(event: KeyboardEvent): boolean {
    if (event.altKey || event.metaKey || (event.ctrlKey && event.key !== 'z')) return false
    // A clicker's keys go on whatever is open or being typed: they are no text.
    if (CLICKER.has(event.key) && lectern.live) return true
    const { target } = event
    return !(target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement || windows.asking || to.busy())
  }

  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (!isForLectern(event)) return
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
      const action = actionOf(key)
      if (action === undefined || (event.repeat && !key.startsWith('Arrow'))) return
      // A button that still has the focus must not be pressed by the key that advances the slide.
      event.preventDefault()
      // Nor may a dialog that this key opens hear it too.
      event.stopPropagation()
      action(event.timeStamp)
    },
    { capture: true },
  )
}
