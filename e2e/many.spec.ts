import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, type Page } from '@playwright/test'
import { openShelf, test } from './support'

test.use({ crates: ['otterby-landing'] })

/** A bollard of so many sides, as another program writes it: two names that the game does not take, no texture. */
function bollard(sides: number): string {
  const ring = (height: number): string[] =>
    Array.from({ length: sides }, (_side, at) => {
      const angle = (at / sides) * 2 * Math.PI
      return `v ${(0.2 * Math.cos(angle)).toFixed(4)} ${height} ${(-0.2 * Math.sin(angle)).toFixed(4)}`
    })
  const walls = Array.from({ length: sides }, (_side, at) => {
    const next = (at + 1) % sides
    return `f ${at + 1} ${next + 1} ${next + 1 + sides} ${at + 1 + sides}`
  })
  const corners = Array.from({ length: sides }, (_side, at) => at + 1)
  const caps = [`f ${corners.toReversed().join(' ')}`, `f ${corners.map((at) => at + sides).join(' ')}`]
  return ['o Bollard.Top', 'usemtl Wet Iron', ...ring(0), ...ring(0.9), ...walls, ...caps, ''].join('\n')
}

/** Lets fall files on a part of the page, as from a folder of the modder's. */
async function drop(page: Page, onto: string, files: { name: string; text: string }[]): Promise<void> {
  const data = await page.evaluateHandle((all) => {
    const transfer = new DataTransfer()
    for (const { name, text } of all) transfer.items.add(new File([text], name))
    return transfer
  }, files)
  await page.dispatchEvent(onto, 'drop', { dataTransfer: data })
}

test('fifty files dropped at once come to one pack that loads; a finding is mended everywhere', async ({ page }) => {
  await openShelf(page)
  await page.goto('/crate/otterby-landing')
  await expect(page.getByText('2 items')).toBeVisible()
  const files = Array.from({ length: 50 }, (_file, at) => ({
    name: `bollard_${String(at + 1).padStart(2, '0')}.obj`,
    text: bollard(8 + at),
  }))
  // One of them is torn: the others come in.
  await drop(page, 'section[aria-label="Bring in files"]', [...files, { name: 'torn.obj', text: 'v 0 0 0\nf 1 2 9\n' }])
  await expect(page.getByText('52 items')).toBeVisible({ timeout: 120_000 })
  await expect(page.getByText(/torn\.obj.*The others came in/)).toBeVisible()

  // As many rows as there are items, those in sight drawn.
  const rows = page.getByRole('row').filter({ has: page.getByRole('checkbox', { name: /^Choose Bollard/ }) })
  await expect(rows.first()).toBeVisible()
  expect(await rows.count()).toBeLessThan(30)
  await page.getByLabel('Item name or pattern').fill('bollard 0?')
  await expect(page.getByText('9 of 52 items')).toBeVisible()
  await expect(rows).toHaveCount(9)

  // Those that are shown are chosen and changed together; one Undo takes it back.
  await page.getByRole('checkbox', { name: 'Choose all that are shown' }).check()
  await page.getByRole('button', { name: 'Change…' }).click()
  await page.getByLabel('They become').selectOption('Loose thing')
  await page.getByRole('dialog').getByRole('button', { name: 'Change' }).click()
  await expect(page.getByRole('combobox', { name: 'Kind of Bollard 09' })).toHaveValue('loose')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('combobox', { name: 'Kind of Bollard 09' })).toHaveValue('prop')
  await expect(page.getByRole('combobox', { name: 'Kind of Bollard 01' })).toHaveValue('prop')
  await page.getByRole('button', { name: 'Choose none' }).click()
  await page.getByLabel('Item name or pattern').fill('')

  // One kind of finding is mended wherever it is.
  const findings = page.getByRole('region', { name: 'Findings of all items' })
  const names = findings.getByRole('listitem').filter({ hasText: 'Name not accepted' })
  await names.getByRole('button', { name: /^Mend all 51 items: Clean names/ }).click({ timeout: 120_000 })
  const mending = page.getByRole('status').filter({ hasText: /Mending \d+ of 51 items/ })
  await expect(mending).toBeVisible()
  await expect(mending).toBeHidden({ timeout: 120_000 })
  await expect(page.getByRole('row').filter({ hasText: /in the queue|\d %/ })).toHaveCount(0, { timeout: 120_000 })
  await expect(names).toHaveCount(0)

  // What is not wanted goes; the rest is prepared together and packed as one.
  await page.getByRole('checkbox', { name: 'Choose Boathouse gate' }).check()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByRole('checkbox', { name: 'Choose Boathouse gate' })).toHaveCount(0)
  await page.getByRole('checkbox', { name: 'Choose all that are shown' }).check()
  await page.getByRole('button', { name: 'Prepare anew' }).click()
  await expect(page.getByRole('status').filter({ hasText: /Preparing \d+ of 51 items/ })).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: /Preparing \d+ of 51 items/ })).toBeHidden({
    timeout: 240_000,
  })
  await page.getByRole('link', { name: 'Pack', exact: true }).click({ timeout: 120_000 })
  await page.getByRole('button', { name: /^Pack (?:now|again)/ }).click()
  await page.getByRole('link', { name: 'Try it' }).click({ timeout: 240_000 })
  await page.getByRole('button', { name: 'Load the pack' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'It loads' })).toBeVisible({ timeout: 120_000 })
  await expect(page.getByRole('button', { name: /^bollard_\d\d$/ })).toHaveCount(50)
})

test('paths that lead to a disk of someone’s are found, and led to another folder in all items at once', async ({
  page,
}) => {
  await openShelf(page)
  await page.goto('/crate/otterby-landing')
  const faces = ['v 0 0 0', 'v 1 0 0', 'v 0 1 0', 'v 0 0 1', 'f 1 3 2', 'f 1 2 4', 'f 1 4 3', 'f 2 3 4', '']
  const stall = ['mtllib stall.mtl', 'o stall', 'usemtl oak', ...faces].join('\n')
  await drop(page, 'section[aria-label="Bring in files"]', [
    { name: 'stall_1.obj', text: stall },
    { name: 'stall_2.obj', text: stall },
    { name: 'stall.mtl', text: 'newmtl oak\nmap_Kd E:\\Edda\\Textures\\wood\\oak.png\n' },
  ])
  await expect(page.getByText('4 items')).toBeVisible()
  await page.goto('/crate/otterby-landing/paths')
  await page.getByLabel('Find a path, item or material').fill('stall')
  const lost = page.getByRole('row').filter({ hasText: 'oak.png' })
  await expect(lost).toHaveCount(2, { timeout: 120_000 })
  await expect(lost.filter({ hasText: 'missing' })).toHaveCount(2)
  await page.getByLabel('Written paths that begin with').selectOption('E:/Edda/Textures/wood')
  const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-wood-'))
  copyFileSync('demo/sources/boathouse_gate/Timber leaf.v2.png', join(folder, 'Oak.PNG'))
  await page.getByLabel('The folder that the pictures lie in').setInputFiles(folder)
  await expect(lost.filter({ hasText: 'Oak.PNG' })).toHaveCount(2, { timeout: 60_000 })
  await expect(lost.filter({ hasText: 'missing' })).toHaveCount(0)
  rmSync(folder, { recursive: true })
})
