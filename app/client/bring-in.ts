import { api } from './api'

/** What can be brought in, for file choosers. */
export const ACCEPTED = '.pdf,.png,.jpg,.jpeg,.webp,application/pdf,image/png,image/jpeg,image/webp'

/** Sends files to be read into a talk's deck. @throws Refusal when they are not taken */
export async function bringIn(talk: string, files: readonly File[]): Promise<void> {
  const form = new FormData()
  for (const file of files) form.append('file', file, file.name)
  await api.post(`/talks/${talk}/imports`, form)
}
