import { ClapEar } from '@core/voice'
import { heardBlocks } from './heard-blocks'
import type { BlockSource } from './heard-blocks'

/** Listens to a microphone's raw blocks, and posts when a clap began, in ms of the page's clock. */
async function listen(source: BlockSource): Promise<void> {
  const ear = new ClapEar()
  for await (const { samples, at, rate } of heardBlocks(source)) {
    const heard = ear.hear(samples, at, rate)
    if (heard !== null) self.postMessage(heard)
  }
}

self.onmessage = (message: MessageEvent<BlockSource>) => {
  void listen(message.data)
}
