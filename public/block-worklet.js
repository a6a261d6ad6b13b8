// Gives a microphone's samples to whoever has the other end of its port, in blocks of about 10 ms: the count of the first one, and what
// the clock on the wall showed when the last one came.
class BlockReader extends AudioWorkletProcessor {
  constructor() {
    super()
    this.parts = []
    this.length = 0
    this.to = null
    this.port.onmessage = (message) => { this.to = message.data }
  }

  process(inputs) {
    const channel = inputs[0][0]
    if (!channel || this.to === null) {
      this.parts = []
      this.length = 0
      return true
    }
    this.parts.push(channel.slice())
    this.length += channel.length
    if (this.length < sampleRate / 100) return true
    const samples = new Float32Array(this.length)
    let at = 0
    for (const part of this.parts) {
      samples.set(part, at)
      at += part.length
    }
    this.to.postMessage({ first: currentFrame + channel.length - this.length, rate: sampleRate, at: Date.now(), samples }, [samples.buffer])
    this.parts = []
    this.length = 0
    return true
  }
}

registerProcessor('block-reader', BlockReader)
