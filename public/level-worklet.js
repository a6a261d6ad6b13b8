/* Measures the microphone off the main thread: peak and mean level of every 50 ms. */
class LevelMeter extends AudioWorkletProcessor {
  constructor() {
    super()
    this.peak = 0
    this.sum = 0
    this.count = 0
  }

  process(inputs) {
    const channel = inputs[0][0]
    if (channel) {
      for (const sample of channel) {
        this.peak = Math.max(this.peak, Math.abs(sample))
        this.sum += sample * sample
      }
      this.count += channel.length
    }
    if (this.count >= sampleRate / 20) {
      this.port.postMessage({ peak: this.peak, rms: Math.sqrt(this.sum / this.count) })
      this.peak = 0
      this.sum = 0
      this.count = 0
    }
    return true
  }
}

registerProcessor('level-meter', LevelMeter)
