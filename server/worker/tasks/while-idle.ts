import { database } from '@server/database'
import { machineNeeded } from '@server/domain'
import { log } from '@server/log'
import type { EncodeOptions } from './encode-options'
import { WhileNeeded } from './while-needed'

/** How pictures are made that nobody waits for: on one core. @param label as of `EncodeOptions` */
export const idleOptions = (label: string): EncodeOptions => ({ label, preview: null, lanes: 1, first: 'long' })

/**
 * Does something for a talk while nobody needs the machine, and makes way as soon as somebody does.
 * @param again has it done later
 */
export async function whileIdle(talk: string, again: () => Promise<void>, work: (idle: WhileNeeded) => Promise<void>): Promise<void> {
  const needed = (): Promise<boolean> => machineNeeded(database())
  if (await needed()) {
    await again()
    return
  }
  const idle = new WhileNeeded(async () => !(await needed()))
  try {
    await work(idle)
  } catch (error) {
    if (!idle.needless) throw error
    log.info({ talk }, 'made way for somebody')
    await again()
  } finally {
    idle.end()
  }
}
