import { open, readFile } from 'node:fs/promises'

/** Puts files one after the other. */
export async function concatenate(files: readonly string[], out: string): Promise<void> {
  const target = await open(out, 'w')
  try {
    for (const file of files) await target.writeFile(await readFile(file))
  } finally {
    await target.close()
  }
}
