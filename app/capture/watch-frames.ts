import { noteFrame } from './camera-times'

/**
 * Plays a track where nobody sees it, and notes when its pictures were taken.
 * @param came is told of each, on the page's clock
 */
export function watchFrames(
  track: MediaStreamTrack,
  came: (now: number) => void = () => undefined,
): { readonly video: HTMLVideoElement; readonly stop: () => void } {
  const video = document.createElement('video')
  video.muted = true
  video.playsInline = true
  video.srcObject = new MediaStream([track])
  let frame = 0
  const onFrame: VideoFrameRequestCallback = (now, about) => {
    came(now)
    noteFrame(track, about)
    frame = video.requestVideoFrameCallback(onFrame)
  }
  frame = video.requestVideoFrameCallback(onFrame)
  void video.play().catch(() => undefined)
  return {
    video,
    stop: () => {
      video.cancelVideoFrameCallback(frame)
      video.srcObject = null
    },
  }
}
