import { open } from 'node:fs/promises'
import { Refusal } from '@core/model'
import { isAnimatedWebp } from '@render/clips'
import { officeKindOf } from '@render/office'
import type { OfficeKind } from '@render/office'
import { demuxerOf } from '@render/sound'

/** `animation`: a moving picture that is made a film first. */
export type FileKind = 'pdf' | 'picture' | 'text' | 'zip' | 'film' | 'animation' | OfficeKind

/** Names that plain texts have. */
const TEXT = /\.(md|markdown|txt)$/i

/** Whether a file begins as PNG, JPEG or WebP do. */
const isPicture = (head: string): boolean =>
  head.startsWith('\x89PNG\r\n') || head.startsWith('\xff\xd8\xff') || (head.startsWith('RIFF') && head.slice(8, 12) === 'WEBP')

/**
 * What a file is, by its first bytes; its name is not believed, but for plain texts, which have no mark of their own.
 * @throws Refusal `unreadable` when it is nothing that can be brought in
 */
export async function kindOf(path: string, name: string): Promise<FileKind> {
  const file = await open(path)
  const head = Buffer.alloc(1024)
  const { bytesRead } = await file.read(head, 0, head.length, 0).finally(() => file.close())
  if (bytesRead === 0) throw new Refusal('unreadable', 'This file is empty.')
  const text = head.subarray(0, bytesRead).toString('latin1')
  if (text.includes('%PDF-')) return 'pdf'
  if (isAnimatedWebp(head.subarray(0, bytesRead))) return 'animation'
  if (isPicture(text)) return 'picture'
  const office = await officeKindOf(path, head.subarray(0, bytesRead))
  if (office !== null) return office
  if (text.startsWith('PK\x03\x04')) return 'zip'
  if (!TEXT.test(name) && (await demuxerOf(path)) !== null) return 'film'
  if (TEXT.test(name) && !text.includes('\0')) return 'text'
  throw new Refusal(
    'unreadable',
    'This file is not a PDF, an office deck, a PNG, JPEG or WebP, a film or a sound, whatever its name says. Export the deck as a ' +
      'PDF and bring that.',
  )
}
