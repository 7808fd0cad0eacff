// What every answer of the server carries.
import { createHash } from 'node:crypto'

/**
 * Scripts run from our own files, and inline only those whose text the page was built with. A worker takes its policy
 * from its own response, and the block encoder's glue needs eval there.
 * @param {string} scriptSource what else may run as script
 */
export function contentSecurityPolicy(scriptSource) {
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

/** The policy of a page by the inline scripts in its text. */
export function policyOfPage(html) {
  const inline = [...html.matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(([, text]) => text)
  const sums = inline.map((text) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`)
  return contentSecurityPolicy(sums.join(' '))
}

export const commonHeaders = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
}
