import { connect, createServer } from 'node:net'
import type { Socket } from 'node:net'
import { listenOnLoopback } from '../../stand-ins/listen'

/** A line to a server of loopback that can be cut, and counts what goes over it. */
export interface WobblyLine {
  /** Address that leads over it to the server. */
  readonly address: string
  /** Bytes that went to the server. */
  readonly carried: () => number
  /** Cuts every connection once so many bytes more went to the server; then it holds again. */
  readonly cutAfter: (bytes: number) => void
  /** Whether what was asked to be cut has been. */
  readonly wasCut: () => boolean
  /** Nothing goes on while it is stopped; connections stay. */
  readonly stopAfter: (bytes: number) => void
  readonly goOn: () => void
  readonly close: () => Promise<void>
}

/** Lays a line to a server. @param to its address */
export async function wobblyLine(to: string): Promise<WobblyLine> {
  const { port } = new URL(to)
  const open = new Set<Socket>()
  let [carried, cutAt, stopAt] = [0, Infinity, Infinity]
  let cut = false
  const halted = new Set<() => void>()
  const server = createServer((near) => {
    const far = connect(Number(port), '127.0.0.1')
    for (const socket of [near, far]) {
      open.add(socket)
      socket.on('error', () => undefined)
      socket.on('close', () => {
        open.delete(socket)
        near.destroy()
        far.destroy()
      })
    }
    near.on('data', (part) => {
      if (carried + part.length > cutAt) {
        cutAt = Infinity
        cut = true
        // What was carried arrives: whoever goes on counts on no more than that, and the machine may be busy.
        far.end(() => {
          for (const socket of open) socket.destroy()
        })
        near.pause()
        return
      }
      carried += part.length
      far.write(part)
      if (carried < stopAt) return
      near.pause()
      halted.add(() => near.resume())
    })
    far.pipe(near)
  })
  const address = await listenOnLoopback(server, 0)
  return {
    address: `${address}${new URL(to).pathname.replace(/\/$/, '')}`,
    carried: () => carried,
    cutAfter: (bytes) => {
      cut = false
      cutAt = carried + bytes
    },
    wasCut: () => cut,
    stopAfter: (bytes) => {
      stopAt = carried + bytes
    },
    goOn: () => {
      stopAt = Infinity
      for (const go of halted) go()
      halted.clear()
    },
    close: async () => {
      for (const socket of open) socket.destroy()
      await new Promise((resolve) => {
        server.close(resolve)
      })
    },
  }
}
