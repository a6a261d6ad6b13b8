import type { Ref } from 'vue'
import { paintScene } from '@core/paint'
import type { PictureShelf } from '@core/paint'
import { sceneAt } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { Size } from '@core/model'
import { useLectern } from '~/stores/lectern'
import type { ClipPlay } from '~/player'
import { useTalk } from '~/stores/talk'

/** Draws what the programme shows while a voice is recorded over it: its slides, steps and ink at their times, without the old face. */
export function useDubPicture(
  canvas: Ref<HTMLCanvasElement | null>,
  size: Ref<Size>,
  shelf: PictureShelf<CanvasImageSource>,
  follow: (clips: readonly ClipScene[], how: ClipPlay) => void,
): void {
  const lectern = useLectern()
  const talk = useTalk()
  let frame = 0

  function draw(): void {
    const ctx = canvas.value?.getContext('2d')
    const scene = talk.index === null ? null : sceneAt(talk.index, lectern.time())
    if (ctx != null && scene !== null) {
      follow(scene.clips, { playing: lectern.live, rate: 1, volume: () => 1 })
      paintScene<CanvasImageSource>(ctx, { ...scene, inset: null, stage: { x: 0, y: 0, w: 1, h: 1 } }, size.value, shelf)
    }
    frame = requestAnimationFrame(draw)
  }
  watch(
    () => lectern.dubbing,
    (on) => {
      cancelAnimationFrame(frame)
      if (on) frame = requestAnimationFrame(draw)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
  })
}
