import { mkdtempSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib'
import { afterAll, beforeAll, beforeEach, expect, it, vi } from 'vitest'
import { application } from './application.mjs'

const SCRIPT = 'window.begin = 1'
const PAGE = `<!DOCTYPE html><script>${SCRIPT}</script><script src="/assets/a-1.js"></script>`
let server: Server
let folder: string
const told = vi.spyOn(console, 'error').mockImplementation(() => undefined)

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'gentle-crate-'))
  mkdirSync(join(folder, 'assets'))
  writeFileSync(join(folder, 'index.html'), PAGE)
  writeFileSync(join(folder, 'assets/a-1.js'), 'plain')
  writeFileSync(join(folder, 'assets/a-1.js.br'), brotliCompressSync('compressed'))
  writeFileSync(join(folder, 'assets/pack.worker-1.js'), 'work')
  writeFileSync(join(folder, '..', `${folder.split('/').pop()}-outside.txt`), 'outside')
  await new Promise<void>((resolve) => {
    server = application(folder).listen(0, '127.0.0.1', () => resolve())
  })
})
afterAll(() => {
  server.close()
  rmSync(folder, { recursive: true })
  rmSync(`${folder}-outside.txt`)
})
beforeEach(() => told.mockClear())

interface Answer {
  status: number
  headers: Record<string, unknown>
  body: Buffer
}

/** A request whose path is sent as it is written: a client that tidies it up would hide what is tried here. */
const ask = (method: string, path: string, headers: Record<string, string> = {}): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const { port } = server.address() as AddressInfo
    const call = request({ host: '127.0.0.1', port, method, path, headers }, (response) => {
      const parts: Buffer[] = []
      response.on('data', (part: Buffer) => parts.push(part))
      response.on('end', () =>
        resolve({ status: response.statusCode ?? 0, headers: response.headers, body: Buffer.concat(parts) }),
      )
    })
    call.on('error', reject)
    call.end()
  })

it.each([
  ['POST', '/', {}, 405, /Only GET and HEAD/],
  ['DELETE', '/assets/a-1.js', {}, 405, /Only GET/],
  ['GET', '//other.example/x', {}, 400, /no such address/],
  ['GET', '/%zz', {}, 400, /no such address/],
  ['GET', '/assets/a-1.js', { Range: 'bytes=900-' }, 416, /does not have that range/],
  ['GET', '/assets/a-1.js', { Range: 'bytes=3-1' }, 416, /does not have that range/],
  ['GET', '/assets/gone.js', {}, 404, /no such file/],
])('%s %s %o is refused in a sentence, and nothing is logged', async (method, path, headers, status, sentence) => {
  const answer = await ask(method, path, headers as Record<string, string>)
  expect(answer.status).toBe(status)
  expect(answer.body.toString()).toMatch(sentence)
  expect(answer.headers['content-type']).toMatch(/^text\/plain/)
  expect(told).not.toHaveBeenCalled()
})

it('gives nothing from outside its folder, however the path is written', async () => {
  const outside = `${folder.split('/').pop()}-outside.txt`
  for (const path of [`/../${outside}`, `/%2e%2e/${outside}`, `/..%2f${outside}`, `/assets/..%5c..%5c${outside}`])
    expect((await ask('GET', path)).body.toString()).not.toContain('outside')
})

it('answers every address that is no file with the page, whose own script alone may run', async () => {
  const { status, headers, body } = await ask('GET', '/crate/otterby-landing/item/gate?stage=mesh')
  expect([status, body.toString()]).toEqual([200, PAGE])
  const policy = String(headers['content-security-policy'])
  expect(policy).toContain("default-src 'none'")
  expect(policy).not.toContain("'unsafe-eval'")
  const { createHash } = await import('node:crypto')
  expect(policy).toContain(`'sha256-${createHash('sha256').update(SCRIPT).digest('base64')}'`)
  expect(policy.match(/'sha256-/g)).toHaveLength(1)
  expect(headers['cross-origin-embedder-policy']).toBe('require-corp')
})

it('sends what was compressed at the build to whoever takes it', async () => {
  const small = await ask('GET', '/assets/a-1.js', { 'Accept-Encoding': 'gzip, br' })
  expect(small.headers['content-encoding']).toBe('br')
  expect(small.headers['content-type']).toMatch(/javascript/)
  expect(brotliDecompressSync(small.body).toString()).toBe('compressed')
  expect((await ask('GET', '/assets/a-1.js')).body.toString()).toBe('plain')
  expect(small.headers['cache-control']).toContain('immutable')
  expect((await ask('GET', '/')).headers['cache-control']).toBe('no-cache')
})

it('lets a worker evaluate what its codec needs, and no page', async () => {
  const { headers } = await ask('GET', '/assets/pack.worker-1.js')
  expect(headers['content-security-policy']).toContain("'unsafe-eval'")
})
