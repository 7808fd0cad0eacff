import { test as base, expect, type Page } from '@playwright/test'

/**
 * A test on some of the demo's crates: each that lies on the shelf is read, and has its items drawn, before a test
 * comes to what it is about. By itself a test gets all of them.
 *
 * @example test.use({ crates: ['otterby-landing'] })
 */
export const test = base.extend<{ crates: string[] | null }>({
  crates: [null, { option: true }],
  context: async ({ context, crates }, use) => {
    if (crates)
      await context.route('**/demo/index.json', (route) => route.fulfill({ json: crates.map((name) => `${name}.zip`) }))
    await use(context)
  },
})

/**
 * Opens the shelf with the demo crate on it, and fails the test on any request that leaves, and on any error of page or
 * workers that the test does not cause itself.
 */
export async function openShelf(page: Page, causesErrors = false): Promise<void> {
  if (!causesErrors)
    page.on('pageerror', (error) => {
      throw error
    })
  page.on('request', (request) => {
    const { protocol, hostname } = new URL(request.url())
    if (!/^(?:data|blob):$/.test(protocol) && hostname !== '127.0.0.1')
      throw new Error(`A request left for ${request.url()}`)
  })
  await page.goto('/')
  // Before the first crate stands there, all of the demo is read; a busy machine takes its time for that.
  await expect(page.getByRole('heading', { name: /^(?:Otterby|Hollin|Parish) / }).first()).toBeVisible({
    timeout: 120_000,
  })
}

/** The gate on the bench, read and checked. */
export async function openGate(page: Page, stage = 'mesh'): Promise<void> {
  await openShelf(page)
  await page.goto(`/crate/otterby-landing/item/boathouse-gate?stage=${stage}`)
  await expect(page.getByText('28 block · 7 risky · 13 notes')).toBeVisible({ timeout: 60_000 })
}

/** Prepares what is on the bench, and goes back to a stage from what preparing came to. */
export async function prepareItem(page: Page, stage: string): Promise<void> {
  await page.getByRole('button', { name: 'Prepare for me' }).click({ timeout: 60_000 })
  await expect(page.getByRole('button', { name: 'Pack and try it' })).toBeEnabled({ timeout: 120_000 })
  await openStage(page, stage)
}

/** Prepares the gate, and goes back to a stage from what preparing came to. */
export async function prepareGate(page: Page, stage = 'Mesh'): Promise<void> {
  await prepareItem(page, stage)
  await expect(page.getByText('0 block · 0 risky · 5 notes')).toBeVisible()
}

/** Opens the mooring bell, which lies in the crate prepared, where it is not the gate that counts. */
export async function openBell(page: Page, stage = 'mesh'): Promise<void> {
  await page.goto(`/crate/otterby-landing/item/mooring-bell?stage=${stage}`)
  await expect(page.getByText(/0 block · 0 risky/)).toBeVisible({ timeout: 120_000 })
}

/** Puts a step on the belt by the search. */
export async function addStep(page: Page, title: string): Promise<void> {
  const search = page.getByRole('combobox', { name: 'Search the steps' })
  // What was done just before may make the button rest for a moment while it runs.
  await expect(async () => {
    if (!(await search.isVisible())) await page.getByRole('button', { name: 'Add a step' }).click({ timeout: 5000 })
    await expect(search).toBeVisible({ timeout: 2000 })
  }).toPass({ timeout: 60_000 })
  await search.fill(title)
  await page.getByRole('option', { name: new RegExp(`^${title}`) }).click()
}

/** Goes to a stage by the route bar. */
export async function openStage(page: Page, stage: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('link', { name: new RegExp(stage) })
    .click()
}

/** A slip of the belt by its title. */
export const slip = (page: Page, title: string) =>
  page.getByRole('region', { name: 'Worklist' }).getByRole('button', { name: new RegExp(`^${title}`) })

/** Share of the yard's pixels that are not its plain ground: whether something is drawn. */
export async function drawnShare(page: Page): Promise<number> {
  const picture = await page.locator('canvas').first().screenshot()
  return page.evaluate(async (base64) => {
    const image = await createImageBitmap(await (await fetch(`data:image/png;base64,${base64}`)).blob())
    const canvas = new OffscreenCanvas(image.width, image.height)
    const context = canvas.getContext('2d')
    if (!context) return 0
    context.drawImage(image, 0, 0)
    const { data } = context.getImageData(0, 0, image.width, image.height)
    let dark = 0
    for (let at = 0; at < data.length; at += 4) if (data[at] + data[at + 1] + data[at + 2] < 420) dark++
    return dark / (data.length / 4)
  }, picture.toString('base64'))
}
