import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import { expect, test, type Page } from '@playwright/test'
import { application } from '../server/application.mjs'
import { drawnShare } from './support'

/** Every other test does without, so that each does not fetch the whole application. */
test.use({ serviceWorkers: 'allow' })
test.describe.configure({ mode: 'serial' })

const ADDRESS = 'http://127.0.0.1:4392'
let server: Server
let folder: string

/** A copy of what was built, which a test may change, with a server of its own that it may end. */
test.beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'gentle-crate-'))
  cpSync('build/client', folder, { recursive: true })
  await new Promise<void>((resolve) => {
    server = application(folder).listen(4392, '127.0.0.1', () => resolve())
  })
})
test.afterEach(async () => {
  await endServer()
  rmSync(folder, { recursive: true })
})

function endServer(): Promise<void> {
  server.closeAllConnections()
  return new Promise((resolve) => void server.close(() => resolve()))
}

/** Opens the shelf and waits until the application is kept in the browser. */
async function visitOnce(page: Page): Promise<void> {
  await page.goto(ADDRESS)
  await expect(page.getByRole('heading', { name: 'Otterby arrivals' })).toBeVisible()
  const state = () => page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
  await expect.poll(state, { timeout: 60_000 }).toBe('activated')
}

test('after the first visit everything works without the server, a crate opened for the first time included', async ({
  page,
}) => {
  page.on('pageerror', (error) => {
    throw error
  })
  await visitOnce(page)
  await endServer()
  await expect(page.request.get(ADDRESS, { timeout: 3000 })).rejects.toThrow()

  await page.goto(`${ADDRESS}/crate/otterby-arrivals/item/timetable-board?stage=mesh`)
  await expect(page.getByText(/[1-9]\d* block/).first()).toBeVisible({ timeout: 90_000 })
  await expect.poll(() => drawnShare(page), { timeout: 30_000 }).toBeGreaterThan(0.01)
  await page.getByRole('button', { name: 'Prepare for me' }).click()
  await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 90_000 })
  await page.goto(`${ADDRESS}/crate/otterby-arrivals/pack`)
  await page.getByRole('button', { name: 'Pack now' }).click()
  await page.getByRole('link', { name: 'Try it' }).click({ timeout: 120_000 })
  await expect(page.getByRole('button', { name: 'Load the pack' })).toBeVisible()
  await page.goto(`${ADDRESS}/licences`)
  await expect(page.getByText('react-router', { exact: true })).toBeVisible()
})

test('a later version is told, and taken only when the modder says so', async ({ page }) => {
  await visitOnce(page)
  await page.evaluate(() => Object.assign(window, { mark: 'not reloaded' }))
  const later = Buffer.concat([readFileSync(join(folder, 'service-worker.js')), Buffer.from('\n// A later version.\n')])
  writeFileSync(join(folder, 'service-worker.js'), later)
  writeFileSync(join(folder, 'service-worker.js.br'), brotliCompressSync(later))
  writeFileSync(join(folder, 'service-worker.js.gz'), gzipSync(later))
  await page.evaluate(async () => (await navigator.serviceWorker.ready).update())
  await expect(page.getByText('A later version of Gentle Crate is here.')).toBeVisible()
  await page.waitForTimeout(1000)
  expect(await page.evaluate(() => 'mark' in window)).toBe(true)
  await page.getByRole('button', { name: 'Use it now' }).click()
  await expect.poll(() => page.evaluate(() => 'mark' in window).catch(() => true)).toBe(false)
  await expect(page.getByRole('heading', { name: 'Otterby arrivals' })).toBeVisible()
})

test('it can be installed: a manifest with a name, a place to start and icons that are there', async ({ page }) => {
  await page.goto(ADDRESS)
  const address = await page.locator('link[rel=manifest]').getAttribute('href')
  const manifest = await (await page.request.get(`${ADDRESS}${address}`)).json()
  expect(manifest).toMatchObject({ name: 'Gentle Crate', start_url: '/', display: 'standalone' })
  for (const { src, type } of manifest.icons) {
    const icon = await page.request.get(`${ADDRESS}${src}`)
    expect([icon.status(), icon.headers()['content-type']]).toEqual([200, type])
  }
})
