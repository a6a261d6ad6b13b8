import { api } from './api'

/** Has the browser keep a file. @param name that it is kept under */
export function keepFile(content: Blob, name: string): void {
  const address = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  URL.revokeObjectURL(address)
}

/** Has the browser keep a file that the server makes. @param name that it is kept under @throws Refusal when it cannot be made */
export async function saveFile(path: string, name: string): Promise<void> {
  keepFile(await api.file(path), name)
}
