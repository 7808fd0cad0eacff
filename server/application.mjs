// The built application as files: one process, no outside host, every header in one place.
import { existsSync, readFileSync } from 'node:fs'
import express from 'express'
import staticGzip from 'express-static-gzip'
import { commonHeaders, contentSecurityPolicy, policyOfPage } from './policy.mjs'

const METHODS = new Set(['GET', 'HEAD'])

/** Something of a path that is a file: what is not there is not a page either. */
const FILE = /\.[a-z0-9]+$/i

const refuse = (response, status, sentence) => response.status(status).type('text/plain').send(`${sentence}\n`)

/** Whether the signs of an address that are written as numbers are some. */
function isReadable(address) {
  try {
    decodeURIComponent(address)
    return true
  } catch {
    return false
  }
}

/**
 * @param {string} client folder of the built page
 * @returns an express application that answers every request, with a plain sentence where it has nothing
 */
export function application(client) {
  const page = existsSync(`${client}/index.html`) ? readFileSync(`${client}/index.html`, 'utf8') : ''
  const pagePolicy = policyOfPage(page)
  const app = express()
  app.disable('x-powered-by')
  app.use((request, response, next) => {
    response.set({ 'Content-Security-Policy': pagePolicy, ...commonHeaders })
    if (!METHODS.has(request.method)) return refuse(response.set('Allow', 'GET, HEAD'), 405, 'Only GET and HEAD.')
    if (request.url.startsWith('//') || !isReadable(request.url))
      return refuse(response, 400, 'There is no such address.')
    next()
  })
  app.use(
    staticGzip(client, {
      enableBrotli: true,
      orderPreference: ['br', 'gzip'],
      index: false,
      serveStatic: {
        redirect: false,
        setHeaders(response, path) {
          response.setHeader(
            'Cache-Control',
            path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
          )
          if (/\.worker-[^/]*\.js(\.br|\.gz)?$/.test(path))
            response.setHeader('Content-Security-Policy', contentSecurityPolicy("'unsafe-eval'"))
        },
      },
    }),
  )
  app.use((request, response) => {
    if (FILE.test(request.path)) return refuse(response, 404, 'There is no such file.')
    response.set('Cache-Control', 'no-cache').type('html').send(page)
  })
  // Express takes four parameters as the sign of a function for errors.
  app.use((error, _request, response, _next) => {
    if (response.headersSent) return response.destroy()
    const status = error.status ?? error.statusCode ?? 500
    if (status >= 500) console.error(error)
    refuse(response, status, status === 416 ? 'The file does not have that range.' : 'This request cannot be answered.')
  })
  return app
}
