import type { Ref } from 'vue'
import { paintInset, paintScene } from '@core/paint'
import { gainsOf, intoSpan, sourceAt } from '@core/programme'
import type { PictureShelf } from '@core/paint'
import { pieceAt, sceneAt } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { sameRatio } from '@core/model'
import type { Ms, Piece, Size } from '@core/model'
import { recordingUrl } from '~/client'

/** How far the sound may be from where it should be before it is set right, in seconds. */
const SLIP = 0.04
/**
 * While it stands still the camera's nearest picture is shown, as in the file, not the last one before: it is sought half a picture
 * later, in seconds.
 */
const NEAREST = 1 / 60

interface Slot {
  readonly video: HTMLVideoElement
  stretch: string
}

/**
 * Plays a film onto a canvas: the voice sets the time, the scene at that time is drawn with the painter that the
 * export uses.
 * @param index the film
 * @param canvas where it is drawn
 * @param size of the canvas in pixels
 */
export function useFilmPlayer(
  index: Ref<FilmIndex | null>,
  canvas: Ref<HTMLCanvasElement | null>,
  size: Ref<Size>,
  shelf: PictureShelf<CanvasImageSource>,
) {
  const at = ref<Ms>(0)
  const playing = ref(false)
  /** How fast it is played, 0.5 to 2; the pitch stays. */
  const speed = ref(1)
  /** A part that is played over and over. */
  const loop = shallowRef<{ readonly from: Ms; readonly to: Ms } | null>(null)
  const trouble = ref<string | null>(null)
  const slots: Slot[] = []
  let current: Slot | null = null
  let number = -1
  let clock = { since: 0, from: 0 }
  let frame = 0

  function slotFor(stretch: string, other: Slot | null): Slot {
    const found = slots.find((slot) => slot.stretch === stretch && slot !== other)
    if (found !== undefined) return found
    const free = slots.find((slot) => slot !== current && slot !== other)
    const slot = free ?? { video: document.createElement('video'), stretch: '' }
    if (free === undefined) {
      slot.video.preload = 'auto'
      slot.video.playsInline = true
      for (const arrived of ['seeked', 'loadeddata'] as const)
        slot.video.addEventListener(arrived, () => {
          if (!playing.value) draw()
        })
      slot.video.addEventListener('error', () => {
        if (slot.stretch === '') return
        pause()
        trouble.value = 'This part of the recording cannot be played here. It is kept on the server; reload the page to try again.'
      })
      slots.push(slot)
    }
    slot.stretch = stretch
    slot.video.src = recordingUrl(stretch)
    return slot
  }

  /** Recordings are made equally loud, as in the file: a browser can only play softer, so the loudest sets the mark. */
  const loudest = computed(() => {
    if (index.value === null) return null
    const gains = gainsOf(index.value.film.programme, index.value.film.stretches)
    return { gains, most: Math.max(0, ...gains.values()) }
  })

  const voiceTime = (piece: Piece, into: Ms): number | null =>
    piece.kind === 'still' || piece.voice === null ? null : sourceAt(piece.voice, into) / 1000

  function draw(): void {
    const ctx = canvas.value?.getContext('2d')
    if (ctx == null || index.value === null) return
    const scene = sceneAt(index.value, at.value)
    if (scene === null) return
    paintScene<CanvasImageSource>(ctx, scene, size.value, shelf)
    if (scene.inset === null || current === null || current.stretch !== scene.inset.stretch) return
    const { video } = current
    if (video.readyState >= 2 && video.videoWidth > 0) {
      paintInset<CanvasImageSource>(
        ctx,
        { image: video, width: video.videoWidth, height: video.videoHeight },
        scene.inset.framing,
        size.value,
      )
    }
  }

  /** Whether what is heard in a piece goes on from what is heard in the one before it. */
  const goesOn = (before: Piece | undefined, piece: Piece): boolean =>
    before?.kind === 'recorded' &&
    piece.kind === 'recorded' &&
    before.voice !== null &&
    piece.voice !== null &&
    before.voice.stretch === piece.voice.stretch &&
    before.voice.to === piece.voice.from &&
    sameRatio(before.voice.rate, piece.voice.rate)

  /** Gets what is heard after the next join ready, so that going on does not wait: also when it is another place of the same recording. */
  function prepare(film: FilmIndex): void {
    const { pieces } = film.film.programme
    for (let n = number + 1; n < pieces.length; n += 1) {
      const piece = pieces[n]
      if (
        piece === undefined ||
        piece.out !== undefined ||
        piece.kind === 'still' ||
        piece.voice === null ||
        goesOn(pieces[film.before[n] ?? -1], piece)
      )
        continue
      const slot = slotFor(piece.voice.stretch, current)
      if (Math.abs(slot.video.currentTime - piece.voice.from / 1000) > SLIP) slot.video.currentTime = piece.voice.from / 1000
      return
    }
  }

  /** The slot that stands nearest to a place of a recording, or one that is made to. */
  function slotAt(stretch: string, time: number): Slot {
    const [nearest] = slots
      .filter((slot) => slot.stretch === stretch)
      .sort((a, b) => Math.abs(a.video.currentTime - time) - Math.abs(b.video.currentTime - time))
    return nearest ?? slotFor(stretch, null)
  }

  /** Goes to a time: the right recording at the right place. */
  function enter(t: Ms): void {
    const film = index.value
    if (film === null) return
    const found = pieceAt(film, t)
    if (found === null) return
    number = found.number
    const time = voiceTime(found.piece, found.into)
    const before = current
    if (time === null || found.piece.kind === 'still' || found.piece.voice === null) {
      current = null
      clock = { since: performance.now(), from: found.into }
    } else {
      current = slotAt(found.piece.voice.stretch, time)
      const { video } = current
      video.volume =
        loudest.value === null ? 1 : 10 ** (((loudest.value.gains.get(found.piece.voice.stretch) ?? 0) - loudest.value.most) / 20)
      video.playbackRate = (found.piece.voice.rate.num / found.piece.voice.rate.den) * speed.value
      const [place, most] = playing.value ? [time, SLIP] : [time + NEAREST, 0.001]
      if (Math.abs(video.currentTime - place) > most) video.currentTime = place
      if (playing.value) void video.play().catch(() => undefined)
    }
    if (before !== null && before !== current) before.video.pause()
    if (playing.value) prepare(film)
  }

  function step(): void {
    const film = index.value
    if (!playing.value || film === null) return
    const piece = film.film.programme.pieces[number]
    if (piece !== undefined) {
      const start = film.starts[number] ?? 0
      const end = film.starts[number + 1] ?? film.length
      const into =
        current === null || piece.kind === 'still' || piece.voice === null
          ? clock.from + (performance.now() - clock.since) * speed.value
          : intoSpan(piece.voice, current.video.currentTime * 1000)
      const ended = current !== null && current.video.ended
      if (loop.value !== null && start + into >= loop.value.to) {
        at.value = loop.value.from
        enter(at.value)
        frame = requestAnimationFrame(step)
        return
      }
      at.value = Math.max(start, Math.min(end, start + into))
      if (at.value >= end - 1 || ended) {
        if (end >= film.length - 1e-6) {
          at.value = film.length
          pause()
          draw()
          return
        }
        at.value = end
        enter(end)
      }
    }
    draw()
    frame = requestAnimationFrame(step)
  }

  function play(): void {
    if (index.value === null || playing.value) return
    if (at.value >= index.value.length - 1) at.value = 0
    playing.value = true
    enter(at.value)
    frame = requestAnimationFrame(step)
  }

  function pause(): void {
    playing.value = false
    cancelAnimationFrame(frame)
    current?.video.pause()
  }

  function seek(t: Ms): void {
    if (index.value === null) return
    at.value = Math.max(0, Math.min(t, index.value.length))
    enter(at.value)
    draw()
  }

  watch(speed, () => {
    if (playing.value) enter(at.value)
  })
  const placesOf = (film: FilmIndex | null): string => JSON.stringify(film?.film.programme.pieces ?? [])
  watch(index, (now, before) => {
    // Ink and framing change what is seen, not what is played.
    if (now !== null && placesOf(now) === placesOf(before)) {
      draw()
      return
    }
    pause()
    current = null
    if (now !== null) seek(Math.min(at.value, now.length))
  })
  watch([canvas, size], () => {
    void nextTick(() => {
      seek(at.value)
    })
  })
  onBeforeUnmount(() => {
    pause()
    for (const slot of slots) slot.video.removeAttribute('src')
  })
  return { at, playing, speed, loop, trouble, play, pause, seek, draw }
}
