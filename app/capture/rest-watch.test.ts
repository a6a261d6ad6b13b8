import { beforeEach, describe, expect, it } from 'vitest'
import { RestWatch } from './rest-watch'
import type { RestMessage } from './rest-watch'

const EMPTY = new ArrayBuffer(0)

/** A window whose full-size pictures are made when a test says so. */
function watched() {
  const told: string[] = []
  const closed: string[] = []
  const making: (() => void)[] = []
  const rests = new RestWatch<string>({
    alike: (a, b) => a.length === b.length,
    close: (frame) => closed.push(frame),
    inFull: () =>
      new Promise((made) => {
        making.push(() => {
          made(EMPTY)
        })
      }),
    tell: (message: RestMessage) =>
      told.push(
        message.kind === 'rests'
          ? `${String(message.n)} rests from ${String(message.from)}`
          : `${String(message.n)} moves at ${String(message.until)}`,
      ),
  })
  const came = (frame: string, value: number, now: number): void => {
    rests.came({ frame, values: Uint8ClampedArray.of(value, 0) }, now)
  }
  /** All that was asked for is made, and what waited for it is told. */
  const made = async (): Promise<void> => {
    for (const done of making.splice(0)) done()
    await new Promise((resolve) => {
      setTimeout(resolve)
    })
  }
  return { rests, came, made, told, closed }
}

describe('a window that is watched', () => {
  let desk = watched()
  beforeEach(() => {
    desk = watched()
  })

  it('rests when nothing of it has changed for half a second, since its last change, and until the next', async () => {
    desk.came('a', 10, 100)
    desk.came('b', 12, 400)
    desk.rests.look(550)
    expect(desk.told).toEqual([])
    desk.rests.look(650)
    desk.rests.look(900)
    await desk.made()
    desk.came('c', 80, 3000)
    await desk.made()
    expect(desk.told).toEqual(['0 rests from 100', '0 moves at 3000'])
    // What looks like the last is let go at once, and the last when another takes its place.
    expect(desk.closed).toEqual(['b', 'a'])
  })

  it('tells of a rest before its end, however long its picture takes to make', async () => {
    desk.came('a', 10, 0)
    desk.rests.look(600)
    desk.came('b', 90, 700)
    desk.rests.look(2400)
    desk.came('c', 10, 2500)
    expect(desk.told).toEqual([])
    await desk.made()
    expect(desk.told).toEqual(['0 rests from 0', '0 moves at 700', '1 rests from 700', '1 moves at 2500'])
  })

  it('has moved when its size is another, and is not pictured more often than every second and a half', async () => {
    desk.came('a', 10, 0)
    desk.rests.look(600)
    desk.came('larger', 10, 900)
    desk.rests.look(1500)
    desk.rests.look(2100)
    await desk.made()
    expect(desk.told).toEqual(['0 rests from 0', '0 moves at 900', '1 rests from 900'])
  })
})
