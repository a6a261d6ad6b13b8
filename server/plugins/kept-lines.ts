import { Server } from 'node:http'

/**
 * How long a line is kept that nothing goes over, in ms: longer than whoever asks keeps theirs (a minute, as a rule, in front of a server),
 * so that it is never closed while a request is on its way. Node's own five seconds are not.
 */
const KEPT = 75_000

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('request', ({ node: { req } }) => {
    const server: unknown = 'server' in req.socket ? req.socket.server : null
    if (server instanceof Server && server.keepAliveTimeout < KEPT) server.keepAliveTimeout = KEPT
  })
})
