import type { Size } from '@core/model'

/*
 * A stream of raw pictures that each stay as long as their time stamps say, so that a picture that does not change is
 * handed to the encoder once. Matroska (RFC 9559) over EBML (RFC 8794), as little of it as is needed.
 */

const id = (hex: string): Buffer => Buffer.from(hex, 'hex')

/** A length, always in eight bytes. */
function size(bytes: number): Buffer {
  const out = Buffer.alloc(8)
  out.writeBigUInt64BE(BigInt(bytes) | (1n << 56n))
  return out
}

const UNKNOWN = id('01ffffffffffffff')
const element = (name: string, body: Buffer): Buffer => Buffer.concat([id(name), size(body.length), body])

function number(name: string, value: number): Buffer {
  const body = Buffer.alloc(8)
  body.writeBigUInt64BE(BigInt(value))
  return element(name, body)
}
const text = (name: string, value: string): Buffer => element(name, Buffer.from(value, 'latin1'))

/**
 * What stands before the first picture.
 * @param tracks pixels of every picture of each, the first of which is number 1; planar 4:2:0; 126 of them at most
 * @param fps frames a second: time stamps count frames
 */
export function streamHead(tracks: readonly Size[], fps: number): Buffer {
  const head = element('1a45dfa3', Buffer.concat([text('4282', 'matroska'), number('4287', 4), number('4285', 2)]))
  const info = element('1549a966', Buffer.concat([number('2ad7b1', Math.round(1e9 / fps)), text('4d80', 'a'), text('5741', 'a')]))
  const entries = tracks.map(({ width, height }, n) => {
    const video = element(
      'e0',
      Buffer.concat([number('b0', width), number('ba', height), element('2eb524', Buffer.from('I420', 'latin1'))]),
    )
    return element('ae', Buffer.concat([number('d7', n + 1), number('73c5', n + 1), number('83', 1), text('86', 'V_UNCOMPRESSED'), video]))
  })
  return Buffer.concat([head, id('18538067'), UNKNOWN, info, element('1654ae6b', Buffer.concat(entries))])
}

/** What stands before each picture. @param frame when it begins to be seen, in frames @param bytes of the picture */
export function pictureHead(track: number, frame: number, bytes: number): Buffer {
  // At the cluster's own time, a picture that needs no other.
  const block = Buffer.concat([id('a3'), size(bytes + 4), Buffer.from([0x80 | track, 0, 0, 0x80])])
  const time = number('e7', frame)
  return Buffer.concat([id('1f43b675'), size(time.length + block.length + bytes), time, block])
}
