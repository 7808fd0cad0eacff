// Serves the built application: one process, no outside host, every header in one place.
import { randomBytes } from 'node:crypto'
import { fileURLToPath } from 'node:url'
import { createRequestHandler } from '@react-router/express'
import express from 'express'

const client = fileURLToPath(new URL('../build/client', import.meta.url))
const port = Number(process.env.PORT ?? 4173)
const host = process.env.HOST ?? '127.0.0.1'

/**
 * Scripts run by nonce only; a worker takes its policy from its own response, and the block encoder's glue needs eval
 * there.
 */
function contentSecurityPolicy(scriptSource) {
  return [
    "default-src 'none'",
    `script-src 'self' 'wasm-unsafe-eval' ${scriptSource}`.trim(),
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self' data: blob:",
    "worker-src 'self' blob:",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
}

const app = express()
app.disable('x-powered-by')
app.use((_request, response, next) => {
  response.locals.nonce = randomBytes(16).toString('base64')
  response.set({
    'Content-Security-Policy': contentSecurityPolicy(`'nonce-${response.locals.nonce}'`),
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
  })
  next()
})
app.use(
  '/assets',
  express.static(`${client}/assets`, {
    immutable: true,
    maxAge: '1y',
    setHeaders: (response, path) => {
      if (/\.worker-[^/]*\.js$/.test(path))
        response.setHeader('Content-Security-Policy', contentSecurityPolicy("'unsafe-eval'"))
    },
  }),
)
app.use(express.static(client, { maxAge: 0 }))
const build = await import('../build/server/index.js')
app.use(createRequestHandler({ build, getLoadContext: (_request, response) => ({ nonce: response.locals.nonce }) }))

app.listen(port, host, () => {
  console.log(`Gentle Crate is served at http://${host}:${port}`)
})
