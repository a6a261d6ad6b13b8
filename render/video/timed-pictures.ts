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
 * @param picture pixels of every picture; planar 4:2:0
 * @param rate frames a second: time stamps count frames
 */
export function streamHead(picture: Size, rate: number): Buffer {
  const head = element('1a45dfa3', Buffer.concat([text('4282', 'matroska'), number('4287', 4), number('4285', 2)]))
  const info = element('1549a966', Buffer.concat([number('2ad7b1', Math.round(1e9 / rate)), text('4d80', 'a'), text('5741', 'a')]))
  const video = element('e0', Buffer.concat([number('b0', picture.width), number('ba', picture.height), element('2eb524', Buffer.from('I420', 'latin1'))]))
  const track = element('ae', Buffer.concat([number('d7', 1), number('73c5', 1), number('83', 1), text('86', 'V_UNCOMPRESSED'), video]))
  return Buffer.concat([head, id('18538067'), UNKNOWN, info, element('1654ae6b', track)])
}

/** What stands before each picture. @param frame when it begins to be seen, in frames @param bytes of the picture */
export function pictureHead(frame: number, bytes: number): Buffer {
  // Track 1, at the cluster's own time, a picture that needs no other.
  const block = Buffer.concat([id('a3'), size(bytes + 4), id('81000080')])
  const time = number('e7', frame)
  return Buffer.concat([id('1f43b675'), size(time.length + block.length + bytes), time, block])
}
