import { open } from 'node:fs/promises'

/** Kinds of sounds and films that can be brought in: how a file of each begins, and the one demuxer that may read it. */
const KINDS: readonly { readonly demuxer: string; readonly begins: (head: Buffer) => boolean }[] = [
  { demuxer: 'wav', begins: (head) => head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WAVE' },
  { demuxer: 'aiff', begins: (head) => head.toString('latin1', 0, 4) === 'FORM' },
  { demuxer: 'flac', begins: (head) => head.toString('latin1', 0, 4) === 'fLaC' },
  { demuxer: 'ogg', begins: (head) => head.toString('latin1', 0, 4) === 'OggS' },
  { demuxer: 'mov', begins: (head) => head.toString('latin1', 4, 8) === 'ftyp' },
  { demuxer: 'matroska', begins: (head) => head.readUInt32BE(0) === 0x1a45dfa3 },
  { demuxer: 'gif', begins: (head) => head.toString('latin1', 0, 3) === 'GIF' },
  { demuxer: 'avi', begins: (head) => head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'AVI ' },
  { demuxer: 'mpeg', begins: (head) => head.readUInt32BE(0) === 0x000001ba },
  // The object's identity of ASF, in which .wma and .wmv are.
  { demuxer: 'asf', begins: (head) => head.readUInt32BE(0) === 0x3026b275 },
  { demuxer: 'mp3', begins: (head) => head.toString('latin1', 0, 3) === 'ID3' || (head[0] === 0xff && ((head[1] ?? 0) & 0xe0) === 0xe0) },
]

/** The one demuxer that may read a file, by its first bytes; null when it is of no kind that can be brought in. */
export async function demuxerOf(path: string): Promise<string | null> {
  const file = await open(path)
  try {
    const head = Buffer.alloc(16)
    await file.read(head, 0, head.length, 0)
    return KINDS.find(({ begins }) => begins(head))?.demuxer ?? null
  } finally {
    await file.close()
  }
}
