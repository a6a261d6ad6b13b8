/**
 * Cuts what comes into pieces of the same size, such as pictures that follow each other. What is left at the end is dropped.
 * @param size bytes
 * @returns the same memory each time, which is written anew once the next one is asked for
 */
export async function* piecesOf(chunks: AsyncIterable<Uint8Array>, size: number): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const piece = new Uint8Array(size)
  let filled = 0
  for await (const chunk of chunks) {
    for (let at = 0; at < chunk.length;) {
      const some = chunk.subarray(at, at + size - filled)
      piece.set(some, filled)
      at += some.length
      filled += some.length
      if (filled < size) continue
      filled = 0
      yield piece
    }
  }
}
