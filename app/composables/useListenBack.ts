import type { Ms } from '@core/model'
import type { HeardPart } from '~/capture'

/** Plays what was recorded of a paused take until now, from the pieces that are still here. */
export function useListenBack(parts: () => readonly HeardPart[], length: () => Ms) {
  const at = ref<Ms>(0)
  const playing = ref(false)
  const media = document.createElement('video')
  let number = -1
  let url = ''
  let frame = 0
  let from: Ms = 0

  function load(n: number): HeardPart | null {
    const part = parts()[n]
    if (part === undefined) return null
    if (n !== number) {
      if (url !== '') URL.revokeObjectURL(url)
      url = URL.createObjectURL(part.recording)
      media.src = url
      number = n
    }
    return part
  }

  /** A recording that nobody has finished does not know how long it is until it is asked for its end. */
  async function seek(seconds: number): Promise<void> {
    if (media.readyState === 0)
      await new Promise((resolve) => {
        media.addEventListener('loadedmetadata', resolve, { once: true })
      })
    if (seconds <= 0 && media.currentTime === 0) return
    const there = new Promise((resolve) => {
      media.addEventListener('seeked', resolve, { once: true })
    })
    media.currentTime = seconds
    await there
  }

  function step(): void {
    const part = parts()[number]
    if (!playing.value || part === undefined) return
    at.value = Math.max(from, Math.min(length(), part.at + media.currentTime * 1000))
    if (media.ended || media.currentTime * 1000 >= part.length) {
      if (number + 1 < parts().length) void play(parts()[number + 1]?.at ?? 0)
      else {
        at.value = length()
        pause()
      }
      return
    }
    frame = requestAnimationFrame(step)
  }

  /** @param start time of the take */
  async function play(start: Ms): Promise<void> {
    pause()
    const n = parts().findLastIndex((part) => part.at <= start)
    const part = load(Math.max(0, n))
    if (part === null) return
    from = start
    at.value = start
    playing.value = true
    await seek(Math.max(0, (start - part.at) / 1000))
    await media.play().catch(() => {
      playing.value = false
    })
    frame = requestAnimationFrame(step)
  }

  function pause(): void {
    playing.value = false
    cancelAnimationFrame(frame)
    media.pause()
  }

  onBeforeUnmount(() => {
    pause()
    media.removeAttribute('src')
    if (url !== '') URL.revokeObjectURL(url)
  })
  return { at, playing, play, pause }
}
