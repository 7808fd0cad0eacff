// After the build: licences, the service worker that keeps the application for when there is no server, and every file
// that shrinks beside itself, compressed once instead of at each request.
import { readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join, relative, sep } from 'node:path'
import { fileURLToPath } from 'node:url'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import { build } from 'esbuild'
import { licences } from './licences.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const client = join(root, 'build/client')
const SHRINKS = /\.(?:js|css|html|json|svg|wasm|webmanifest)$/

/** What the page fetches once, where the demo is made: it is on the shelf then. */
const ONCE = /^demo\//

const filesOf = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesOf(join(folder, entry.name)) : [join(folder, entry.name)],
  )

const sha256 = (bytes) => createHash('sha256').update(bytes).digest('hex')

/** Files whose name holds their sum need none; the others get theirs as their revision. */
function keptFiles() {
  return filesOf(client)
    .map((file) => ({ file, url: relative(client, file).split(sep).join('/') }))
    .filter(({ url }) => !ONCE.test(url) && !/\.(?:br|gz|map)$/.test(url) && url !== 'service-worker.js')
    .map(({ file, url }) => ({
      url: `/${url}`,
      revision: url.startsWith('assets/') ? null : sha256(readFileSync(file)).slice(0, 16),
    }))
    .sort((a, b) => (a.url < b.url ? -1 : 1))
}

writeFileSync(join(client, 'licences.json'), JSON.stringify(licences(root)))
await build({
  entryPoints: [join(root, 'app/offline/service-worker.ts')],
  outfile: join(client, 'service-worker.js'),
  bundle: true,
  minify: true,
  format: 'iife',
  define: { KEPT_FILES: JSON.stringify(keptFiles()), 'process.env.NODE_ENV': '"production"' },
  logLevel: 'warning',
})
for (const file of filesOf(client).filter((path) => SHRINKS.test(path))) {
  const bytes = readFileSync(file)
  if (bytes.length < 1024) continue
  writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }))
  // The highest quality takes ten times as long for a few bytes in a hundred.
  const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length }
  writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params }))
}
