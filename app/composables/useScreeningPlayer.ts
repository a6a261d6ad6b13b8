import type { Ref } from 'vue'
import { ofetch } from 'ofetch'
import { paintFace, paintScene } from '@core/paint'
import { linksOn, visitAt } from '@core/screening'
import { indexFilm, sceneAt } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Ms, PageLink, Size } from '@core/model'
import { toFilm } from '@contracts'
import type { ScreenedVisit, ScreeningView, ViewersFilm } from '@contracts'
import { Stream } from '~/player'
import type { useClipPlayers } from './useClipPlayers'

/** How the picture comes: drawn here, or as a film of so many lines, or of as many as the line carries. */
export type ScreeningForm = 'sharp' | 'auto' | number

/** A visit's last moment is so much before its end, in ms. */
const LAST = 40

/**
 * Plays a talk to those who watch: voice and face come as one stream in the film's own time, slides and ink are drawn here, as sharp as
 * the page is large.
 * @param canvas where it is drawn
 * @param size of the canvas in pixels
 * @param clips shows those of its slides, and has all pictures; they are heard with the voice
 * @param holds whether it stops at the end of every slide
 * @param film where the picture stands when it is not drawn here but comes as a film, for machines and lines that are slow
 */
export function useScreeningPlayer(
  view: ScreeningView,
  canvas: Ref<HTMLCanvasElement | null>,
  size: Ref<Size>,
  { shelf, follow }: ReturnType<typeof useClipPlayers>,
  holds: Ref<boolean>,
  film: Ref<HTMLElement | null>,
) {
  const at = ref<Ms>(0)
  const playing = ref(false)
  const speed = ref(1)
  const muted = ref(false)
  /** It waits at the end of a slide until somebody has it go on. */
  const held = ref(false)
  /** It wants to play, and cannot yet. */
  const stalled = ref(false)
  /** The line is lost; it is tried again. */
  const away = ref(false)
  const trouble = ref<string | null>(null)
  const index = shallowRef<FilmIndex | null>(null)
  const form = ref<ScreeningForm>(view.windowsCut && view.films.length > 0 ? 'auto' : 'sharp')
  let media: HTMLVideoElement | null = null
  let stream: Stream | null = null
  let frame = 0
  let opened: 'main' | 'film' | null = null

  const scene = computed(() => (index.value === null ? null : sceneAt(index.value, at.value)))
  /** Links of the slide on screen, where they are seen on it. */
  const links = computed<readonly PageLink[]>(() => (scene.value === null ? [] : linksOn(scene.value, view.shape)))
  const visit = computed<ScreenedVisit | null>(() => visitAt(view.visits, at.value))

  /** The camera's picture of this moment; null while it is not there, which would leave a hole where the face is to be. */
  function faceNow(): HTMLVideoElement | null {
    if (media === null || media.seeking || media.videoWidth === 0) return null
    return media.readyState < HTMLMediaElement.HAVE_CURRENT_DATA ? null : media
  }

  function draw(): void {
    const ctx = canvas.value?.getContext('2d')
    const shown = scene.value
    if (ctx == null || shown === null) return
    const face = faceNow()
    if (form.value === 'sharp') follow(shown.clips, { playing: playing.value && !stalled.value, rate: speed.value, volume: () => 0 })
    paintScene<CanvasImageSource>(ctx, face === null ? { ...shown, inset: null } : shown, size.value, shelf)
    if (face === null) return
    paintFace<CanvasImageSource>(ctx, shown, { image: face, width: face.videoWidth, height: face.videoHeight }, size.value, shelf)
  }

  function hold(end: Ms): void {
    pause()
    held.value = true
    at.value = end - LAST
    draw()
  }

  function step(): void {
    if (!playing.value || media === null) return
    const now = media.currentTime * 1000
    const shown = visit.value
    if (holds.value && shown !== null && now >= shown.start + shown.length - LAST && now < view.length - LAST) {
      hold(shown.start + shown.length)
      return
    }
    at.value = Math.min(view.length, now)
    draw()
    if (media.ended || now >= view.length) {
      pause()
      return
    }
    frame = requestAnimationFrame(step)
  }

  /** A start that a stream being attached broke off follows once it is; any other that fails ends in a pause. */
  function start(element: HTMLVideoElement): void {
    element.play().catch((error: unknown) => {
      if (!(error instanceof DOMException && error.name === 'AbortError')) pause()
    })
  }

  function play(): void {
    if (media === null || playing.value) return
    if (at.value >= view.length - LAST) seek(0)
    // What is over is over: it goes on with the next slide.
    else if (held.value && visit.value !== null) seek(visit.value.start + visit.value.length)
    held.value = false
    playing.value = true
    start(media)
    frame = requestAnimationFrame(step)
  }

  function pause(): void {
    playing.value = false
    stalled.value = false
    cancelAnimationFrame(frame)
    media?.pause()
    draw()
  }

  /** Shows a time at once; its sound follows as soon as it is there. */
  function seek(t: Ms): void {
    at.value = Math.max(0, Math.min(t, view.length))
    held.value = false
    if (media !== null) media.currentTime = at.value / 1000
    draw()
  }

  const toggle = (): void => {
    if (playing.value) pause()
    else play()
  }

  /** The slide before or after this one; back begins with this one's own beginning. */
  function goBy(step: -1 | 1): void {
    const n = view.visits.findIndex(({ id }) => id === visit.value?.id)
    const here = view.visits[n]
    const early = here !== undefined && at.value - here.start < 2000
    const next = step === 1 ? view.visits[n + 1] : view.visits[early ? n - 1 : n]
    if (next !== undefined) seek(next.start)
    else if (step === -1) seek(0)
  }

  function listen(element: HTMLVideoElement): void {
    for (const event of ['seeked', 'loadeddata'] as const)
      element.addEventListener(event, () => {
        if (!playing.value) draw()
      })
    element.addEventListener('waiting', () => {
      stalled.value = playing.value
    })
    element.addEventListener('playing', () => {
      stalled.value = false
    })
  }

  /** Plays what is chosen from where it is; the slides stay drawn here unless they come as a film. */
  async function open(): Promise<void> {
    if (media === null || stream === null) return
    stream.lines = form.value === 'sharp' || form.value === 'auto' ? null : form.value
    const playlist = form.value === 'sharp' ? 'main' : 'film'
    if (playlist !== opened) {
      opened = playlist
      await stream.open(`${view.media}/${playlist}.m3u8`, at.value / 1000)
    }
  }

  onMounted(async () => {
    const element = document.createElement('video')
    element.playsInline = true
    element.preload = 'auto'
    listen(element)
    film.value?.append(element)
    media = element
    stream = new Stream(element, {
      attached: () => {
        element.playbackRate = speed.value
        if (playing.value) start(element)
      },
      failed: () => {
        pause()
        trouble.value = 'This browser cannot play the voice of this talk. Its slides and words are here all the same.'
      },
      gone: () => {
        pause()
        trouble.value = 'This part cannot be played. Load the page again; if it stays so, tell the presenter. What can be read is below.'
      },
      away: (is) => {
        away.value = is
      },
    })
    try {
      index.value = indexFilm(toFilm(await ofetch<ViewersFilm>(`${view.media}/film.json`, { retry: 5, retryDelay: 1000 })))
      draw()
      await open()
    } catch {
      trouble.value = 'This talk could not be loaded. Load the page again; what can be read of it is below.'
    }
  })
  onBeforeUnmount(() => {
    pause()
    stream?.close()
  })
  watch([speed, muted], () => {
    if (media === null) return
    media.playbackRate = speed.value
    media.muted = muted.value
  })
  watch(form, () => {
    open().catch(() => {
      trouble.value = 'This cannot be played at the moment. Choose the other picture, or load the page again.'
    })
  })
  watch([canvas, size], () => {
    void nextTick(draw)
  })
  return {
    at,
    playing,
    speed,
    muted,
    held,
    stalled,
    away,
    form,
    trouble,
    visit,
    links,
    play,
    pause,
    toggle,
    seek,
    goBy,
    draw,
    ready: computed(() => index.value !== null),
  }
}
