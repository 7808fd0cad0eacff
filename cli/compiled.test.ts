import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { compiledCommandLine } from './compiled.mjs'

let root: string

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'compiled-'))
  for (const folder of ['cli', 'core/deep']) mkdirSync(join(root, folder), { recursive: true })
  writeFileSync(join(root, 'package-lock.json'), '{}')
  writeFileSync(join(root, 'core/deep/answer.ts'), 'export const answer: number = 42\n')
  writeFileSync(join(root, 'cli/main.ts'), "export { answer } from '../core/deep/answer.ts'\n")
  writeFileSync(join(root, 'cli/item-worker.ts'), 'export {}\n')
  writeFileSync(join(root, 'cli/node-assets.ts'), 'export const here: string = import.meta.url\n')
  symlinkSync(join(process.cwd(), 'node_modules'), join(root, 'node_modules'))
})
afterEach(() => rmSync(root, { recursive: true, force: true }))

const load = (folder: string, file: string): Promise<Record<string, unknown>> =>
  import(pathToFileURL(join(folder, file)).href) as Promise<Record<string, unknown>>

describe('the compiled command line', () => {
  it('is made once and taken again while no source changes', async () => {
    const folder = await compiledCommandLine(root)
    expect((await load(folder, 'main.mjs')).answer).toBe(42)
    expect(await compiledCommandLine(root)).toBe(folder)
    expect(readdirSync(join(root, '.cache/cli'))).toHaveLength(1)
  })

  it('is made anew after a source was changed, and leaves the earlier one to calls that still run', async () => {
    const before = await compiledCommandLine(root)
    writeFileSync(join(root, 'core/deep/answer.ts'), 'export const answer: number = 4300\n')
    const after = await compiledCommandLine(root)
    expect(after).not.toBe(before)
    expect((await load(after, 'main.mjs')).answer).toBe(4300)
    expect(readdirSync(join(root, '.cache/cli'))).toHaveLength(2)
  })

  it('lets go of what was compiled days ago', async () => {
    const old = await compiledCommandLine(root)
    const daysAgo = new Date(Date.now() - 3 * 24 * 60 * 60 * 1000)
    utimesSync(old, daysAgo, daysAgo)
    writeFileSync(join(root, 'core/deep/answer.ts'), 'export const answer: number = 5\n')
    const now = await compiledCommandLine(root)
    expect(readdirSync(join(root, '.cache/cli')).map((name) => join(root, '.cache/cli', name))).toEqual([now])
  })

  it('finds what stands beside a source from where that source is', async () => {
    const folder = await compiledCommandLine(root)
    expect((await load(folder, 'node-assets.mjs')).here).toBe(pathToFileURL(join(root, 'cli/main.ts')).href)
  })

  it('is made by two calls at once', async () => {
    const [first, second] = await Promise.all([compiledCommandLine(root), compiledCommandLine(root)])
    expect(first).toBe(second)
  })
})
