import type { TextMaker } from './made-text'
import { SAMPLE_RATE } from './made-speech'

const samplesIn = (ms: number): number => Math.round((ms / 1000) * SAMPLE_RATE)

/** Noise between -1 and 1 that a one-pole filter makes duller; `bright` 1: white. */
function noise(maker: TextMaker, count: number, bright: number): Float32Array {
  const out = new Float32Array(count)
  let last = 0
  for (let n = 0; n < count; n += 1) {
    last += bright * (maker.below(65_536) / 32_768 - 1 - last)
    out[n] = last / Math.sqrt(bright)
  }
  return out
}

/** A level that rises from `attack` ms on and falls off until the end. */
const fading = (n: number, count: number, attack: number): number =>
  Math.min(1, n / Math.max(1, samplesIn(attack))) * (1 - n / count) ** 0.8

/**
 * A cough as it is described: a burst of air that opens within some ms, a softer rush, and often a voiced end (Korpáš, 1996). Its loudness
 * and lengths are drawn anew.
 */
export function cough(maker: TextMaker): Float32Array {
  const loud = 9000 + maker.below(9000)
  const burst = samplesIn(60 + maker.below(60))
  const rush = samplesIn(90 + maker.below(140))
  const voiced = maker.happens(0.5) ? samplesIn(50 + maker.below(70)) : 0
  const pitch = 110 + maker.below(120)
  const air = noise(maker, burst + rush, 0.35 + maker.below(40) / 100)
  const out = new Float32Array(burst + rush + voiced)
  for (let n = 0; n < burst; n += 1) out[n] = (air[n] ?? 0) * loud * fading(n, burst * 2, 4)
  for (let n = 0; n < rush; n += 1) out[burst + n] = (air[burst + n] ?? 0) * loud * 0.35 * (1 - n / rush / 2)
  for (let n = 0; n < voiced; n += 1)
    out[burst + rush + n] = Math.sin((2 * Math.PI * pitch * n) / SAMPLE_RATE) ** 3 * loud * 0.4 * fading(n, voiced, 15)
  return out
}

/** A throat that is cleared: a rough, low sound that comes and goes once or twice. */
export function throat(maker: TextMaker): Float32Array {
  const times = 1 + maker.below(2)
  const loud = 6000 + maker.below(6000)
  const parts = Array.from({ length: times }, () => {
    const count = samplesIn(160 + maker.below(160))
    const pitch = 70 + maker.below(40)
    const air = noise(maker, count, 0.2)
    return Float32Array.from({ length: count }, (_, n) => {
      const rough = Math.max(0, Math.sin((2 * Math.PI * pitch * n) / SAMPLE_RATE)) ** 4
      return (rough * 0.7 + (air[n] ?? 0) * 0.5) * loud * Math.sin((Math.PI * n) / count) ** 0.5
    })
  })
  const gap = samplesIn(60 + maker.below(60))
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length + gap, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length + gap
  }
  return out
}
