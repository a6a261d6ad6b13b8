import type { Server } from 'node:net'

/** Has a server listen on loopback. @param port with 0, any that is free @returns its address, such as http://127.0.0.1:4311 */
export async function listenOnLoopback(server: Server, port: number): Promise<string> {
  await new Promise<void>((resolve) => {
    server.listen(port, '127.0.0.1', resolve)
  })
  const bound = server.address()
  return `http://127.0.0.1:${String(typeof bound === 'object' && bound !== null ? bound.port : port)}`
}
