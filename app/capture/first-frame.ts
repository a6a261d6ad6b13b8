/** The first camera frame taken after `since`, in ms of the page's clock; null when the browser does not tell. */
export function firstFrame(stream: MediaStream, since: number): Promise<number | null> {
  const video = document.createElement('video')
  video.muted = true
  video.srcObject = stream
  return new Promise((resolve) => {
    const give = setTimeout(() => { resolve(null) }, 3000)
    const look: VideoFrameRequestCallback = (_now, frame) => {
      const taken = frame.captureTime
      if (taken !== undefined && taken >= since) {
        clearTimeout(give)
        video.srcObject = null
        resolve(taken)
      } else {
        video.requestVideoFrameCallback(look)
      }
    }
    video.requestVideoFrameCallback(look)
    void video.play().catch(() => { resolve(null) })
  })
}
