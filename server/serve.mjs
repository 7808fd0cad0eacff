// Serves the built application. PORT and HOST choose where.
import { fileURLToPath } from 'node:url'
import { application } from './application.mjs'

const port = Number(process.env.PORT ?? 4173)
const host = process.env.HOST ?? '127.0.0.1'
const client = fileURLToPath(new URL('../build/client', import.meta.url))

const server = application(client).listen(port, host, () => {
  console.log(`Gentle Crate is served at http://${host}:${port}`)
})
// What is no HTTP at all gets a plain answer, and the log stays quiet.
server.on('clientError', (_error, socket) => {
  if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\n\r\n')
})
