/** Length of the tick, in seconds: it is over long before a recording begins. */
const LENGTH = 0.05

let context: AudioContext | null = null

/** A short soft tick, while it is counted down. It is played before anything is recorded, and never with it. */
export function tick(): void {
  context ??= new AudioContext()
  const now = context.currentTime
  const tone = new OscillatorNode(context, { type: 'sine', frequency: 880 })
  const volume = new GainNode(context, { gain: 0.12 })
  volume.gain.setTargetAtTime(0, now + LENGTH / 3, LENGTH / 5)
  tone.connect(volume).connect(context.destination)
  tone.start(now)
  tone.stop(now + LENGTH)
}
