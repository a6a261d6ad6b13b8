import { dequal } from 'dequal'
import type { Ref } from 'vue'
import { proposedLight } from '@core/camera'
import { paintFace, paintScene } from '@core/paint'
import type { Drawable } from '@core/paint'
import { clipVolumes, playheadAt, turnOf, voiceAfter, volumesOf } from '@core/playback'
import { intoSpan } from '@core/programme'
import { sceneAt, trackIn } from '@core/scene'
import type { FilmIndex, Scene } from '@core/scene'
import { AS_RECORDED } from '@core/model'
import type { Light, Ms, Size, Span, StretchId } from '@core/model'
import { assetUrl, recordingUrl } from '~/client'
import { MediaSlots } from '~/player'
import type { Slot } from '~/player'
import { useTalk } from '~/stores/talk'
import { useClipPlayers } from './useClipPlayers'
import { useDressedFace } from './useDressedFace'
import { useDressedSound } from './useDressedSound'
import type { PlayedMoment } from './useDressedSound'
import type { CameraPlace } from './useTriedBackdrop'

/** How far the sound may be from where it should be before it is set right, in seconds. */
const SLIP = 0.04
/**
 * While it stands still the camera's nearest picture is shown, as in the file, not the last one before: it is sought half a picture
 * later, in seconds.
 */
const NEAREST = 1 / 60

/** A face is measured in so many pixels. */
const MEASURED: Size = { width: 96, height: 54 }

/**
 * Plays a film of the open talk onto a canvas: the voice sets the time, the scene at that time is drawn with the painter that the
 * export uses.
 * @param index the film
 * @param canvas where it is drawn
 * @param size of the canvas in pixels
 */
export function useFilmPlayer(index: Ref<FilmIndex | null>, canvas: Ref<HTMLCanvasElement | null>, size: Ref<Size>) {
  const talk = useTalk()
  const { shelf, follow } = useClipPlayers(
    (digest) => assetUrl(talk.talk?.id ?? '', digest),
    () => {
      draw()
    },
  )
  const dressed = useDressedSound(index, () => {
    if (!playing.value) draw()
  })
  const face = useDressedFace(() => {
    if (!playing.value) draw()
  })
  const at = ref<Ms>(0)
  const playing = ref(false)
  /** How fast it is played, 0.5 to 2; the pitch stays. */
  const speed = ref(1)
  /** A part that is played over and over. */
  const loop = shallowRef<{ readonly from: Ms; readonly to: Ms } | null>(null)
  const trouble = ref<string | null>(null)
  const slots = new MediaSlots(recordingUrl, {
    arrived: () => {
      if (!playing.value) draw()
    },
    failed: () => {
      pause()
      trouble.value = 'This part of the recording cannot be played here. It is kept on the server; reload the page to try again.'
    },
  })
  /** What is heard; null while nothing is. */
  let current: { readonly slot: Slot; readonly voice: Span } | null = null
  /** Of the piece that is played. */
  let number = -1
  /** How far into its piece the film was at some time, for as long as no voice says so. */
  let clock = { since: 0, from: 0 }
  let frame = 0

  const volumes = computed(() => (index.value === null ? new Map<StretchId, number>() : volumesOf(index.value)))
  const clipVolume = computed(() => (index.value === null ? () => 0 : clipVolumes(index.value, talk.film?.peaks ?? {})))

  /** Has music and tidied voices play along, and the recording as loud as they leave it. */
  function followSound(): void {
    const own = current === null ? 1 : (volumes.value.get(current.voice.stretch) ?? 1)
    const left = dressed.follow({ playing: playing.value, speed: speed.value, at: at.value, number, voice: voiceNow(own) })
    if (current !== null) current.slot.media.volume = own * left
  }
  function voiceNow(volume: number): PlayedMoment['voice'] {
    if (current === null) return null
    const { slot, voice } = current
    return { stretch: voice.stretch, at: slot.media.currentTime * 1000, rate: slot.media.playbackRate, volume }
  }

  /** The camera picture of a scene; null while it is not there. */
  function cameraOf({ inset }: Scene): Drawable<CanvasImageSource> | null {
    if (inset === null || current?.slot.stretch !== inset.stretch) return face.pictureOf(null, null)
    const { media } = current.slot
    return face.pictureOf(inset, { media, at: media.currentTime * 1000, playing: playing.value })
  }

  /** The light that would suit the face of the picture that is on; null: there is none. */
  function measuredLight(): Light | null {
    const scene = index.value === null ? null : sceneAt(index.value, at.value)
    if (scene?.inset == null) return null
    const { light: _, backdrop: __, ...filmed } = scene.inset
    const camera = cameraOf({ ...scene, inset: filmed })
    const ctx = new OffscreenCanvas(MEASURED.width, MEASURED.height).getContext('2d')
    if (camera === null || ctx === null) return null
    ctx.drawImage(camera.image, 0, 0, MEASURED.width, MEASURED.height)
    return proposedLight(ctx.getImageData(0, 0, MEASURED.width, MEASURED.height).data, MEASURED.width, MEASURED.height)
  }

  /** The moment of a camera that is seen; null: none is. */
  function cameraPlace(): CameraPlace | null {
    const scene = index.value === null ? null : sceneAt(index.value, at.value)
    return scene?.inset == null ? null : { stretch: scene.inset.stretch, at: scene.inset.at }
  }

  function draw(): void {
    const ctx = canvas.value?.getContext('2d')
    if (ctx == null || index.value === null) return
    const scene = sceneAt(index.value, at.value)
    if (scene === null) return
    const tempo = trackIn(index.value, number)?.span.rate ?? AS_RECORDED
    follow(scene.clips, {
      playing: playing.value,
      rate: (speed.value * tempo.num) / tempo.den,
      volume: (clip) => clipVolume.value(clip, at.value),
    })
    followSound()
    paintScene<CanvasImageSource>(ctx, scene, size.value, shelf)
    paintFace<CanvasImageSource>(ctx, scene, cameraOf(scene), size.value, shelf)
  }

  /** Gets what is heard after the next join ready, so that going on does not wait. */
  function prepare(film: FilmIndex): void {
    const next = voiceAfter(film, number)
    if (next === null) return
    const { media } = slots.beside(next.stretch, current?.slot ?? null)
    if (Math.abs(media.currentTime - next.from / 1000) > SLIP) media.currentTime = next.from / 1000
  }

  /** Has a recording play, or stand, at some time of it. */
  function sound(voice: Span, voiceAt: Ms): Slot {
    const slot = slots.nearest(voice.stretch, voiceAt, current?.slot ?? null)
    const { media } = slot
    const time = voiceAt / 1000
    media.volume = volumes.value.get(voice.stretch) ?? 1
    media.playbackRate = (voice.rate.num / voice.rate.den) * speed.value
    const [place, most] = playing.value ? [time, SLIP] : [time + NEAREST, 0.001]
    if (Math.abs(media.currentTime - place) > most) media.currentTime = place
    if (playing.value) void media.play().catch(() => undefined)
    return slot
  }

  /** Goes to a time: the right recording at the right place. */
  function enter(t: Ms): void {
    const head = index.value === null ? null : playheadAt(index.value, t)
    if (index.value === null || head === null) return
    number = head.number
    const before = current?.slot
    current = head.voice === null ? null : { slot: sound(head.voice, head.voiceAt), voice: head.voice }
    if (current === null) clock = { since: performance.now(), from: head.into }
    if (before !== current?.slot) before?.media.pause()
    if (playing.value) prepare(index.value)
  }

  /** How far into its piece the film is: where its voice is, or by the clock. */
  const intoNow = (): Ms =>
    current === null
      ? clock.from + (performance.now() - clock.since) * speed.value
      : intoSpan(current.voice, current.slot.media.currentTime * 1000)

  function step(): void {
    if (!playing.value || index.value === null) return
    const turn = turnOf(index.value, { number, into: intoNow() }, current?.slot.media.ended === true, loop.value)
    at.value = turn.at
    if (turn.kind === 'over') pause()
    else {
      if (turn.kind === 'enter') enter(turn.at)
      frame = requestAnimationFrame(step)
    }
    draw()
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
    current?.slot.media.pause()
    draw()
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
  watch(index, (now, before) => {
    // Ink and framing change what is seen, not what is played.
    if (now !== null && dequal(now.film.programme.pieces, before?.film.programme.pieces)) {
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
    slots.release()
  })
  return { cameraPlace, measuredLight, at, playing, speed, loop, trouble, play, pause, seek, draw }
}
