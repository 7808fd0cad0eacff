import { execFileSync } from 'node:child_process'
import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { compiledCommandLine } from './compiled.mjs'
import { loadCompiled } from './load-compiled.mjs'

let root: string

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'compiled-'))
  for (const folder of ['cli', 'core/deep']) mkdirSync(join(root, folder), { recursive: true })
  writeFileSync(join(root, 'package-lock.json'), '{}')
  writeFileSync(join(root, 'core/deep/answer.ts'), 'export const answer: number = 42\n')
  writeFileSync(
    join(root, 'cli/entry.ts'),
    [
      "export { answer } from '../core/deep/answer.ts'",
      'export const here: string = import.meta.url',
      "export const validateBuiltIns = async () => [{ id: 'tarn', title: 'Tarn' }]",
    ].join('\n'),
  )
  symlinkSync(join(process.cwd(), 'node_modules'), join(root, 'node_modules'))
})
afterEach(() => rmSync(root, { recursive: true, force: true }))

const load = (folder: string, call = 'help') => loadCompiled<Record<string, unknown>>(folder, call)

describe('the compiled command line', () => {
  it('is made once and taken again while no source changes', async () => {
    const folder = await compiledCommandLine(root)
    expect(load(folder).entry['answer']).toBe(42)
    expect(await compiledCommandLine(root)).toBe(folder)
    expect(readdirSync(join(root, '.cache/cli'))).toHaveLength(1)
  })

  it('is made anew after a source was changed, and leaves the earlier one to calls that still run', async () => {
    const before = await compiledCommandLine(root)
    writeFileSync(join(root, 'core/deep/answer.ts'), 'export const answer: number = 4300\n')
    const after = await compiledCommandLine(root)
    expect(after).not.toBe(before)
    expect(load(after).entry['answer']).toBe(4300)
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
    expect(load(folder).entry['here']).toBe(pathToFileURL(join(root, 'cli/entry.ts')).href)
  })

  it('keeps the rulebooks that it has validated beside it', async () => {
    const folder = await compiledCommandLine(root)
    expect(readdirSync(join(folder, 'rulebooks'))).toEqual(['tarn.json'])
    expect(JSON.parse(readFileSync(join(folder, 'rulebooks/tarn.json'), 'utf8'))).toEqual({ id: 'tarn', title: 'Tarn' })
  })

  it('keeps the engine’s code for each command after its first call, and does without it where it is torn', async () => {
    const folder = await compiledCommandLine(root)
    const first = load(folder, 'pack')
    expect(readdirSync(folder)).not.toContain('pack.code')
    first.end()
    expect(load(folder, 'pack').entry['answer']).toBe(42)
    load(folder, '../../climbs out').end()
    expect(
      readdirSync(folder)
        .filter((name) => name.endsWith('.code'))
        .toSorted(),
    ).toEqual(['other.code', 'pack.code'])
    const whole = readFileSync(join(folder, 'pack.code')).length
    writeFileSync(join(folder, 'pack.code'), 'torn')
    // In a process of its own: this one knows the code already, and does not look at what is kept.
    const call = [
      'import { loadCompiled } from ' +
        `${JSON.stringify(pathToFileURL(join(process.cwd(), 'cli/load-compiled.mjs')).href)}`,
      `const { entry, end } = loadCompiled(${JSON.stringify(folder)}, 'pack')`,
      'end()',
      'console.log(entry.answer)',
    ].join('\n')
    expect(execFileSync(process.execPath, ['--input-type=module', '-e', call], { encoding: 'utf8' })).toBe('42\n')
    expect(readFileSync(join(folder, 'pack.code')).length).toBeGreaterThan(whole / 2)
  })

  it('imports packages in the midst of a call, also from code that was kept', async () => {
    writeFileSync(
      join(root, 'core/deep/answer.ts'),
      "export const answer = async () => (await import('manifold-3d')).default.name\n",
    )
    const folder = await compiledCommandLine(root)
    const call = [
      'import { loadCompiled } from ' +
        `${JSON.stringify(pathToFileURL(join(process.cwd(), 'cli/load-compiled.mjs')).href)}`,
      `const { entry, end } = loadCompiled(${JSON.stringify(folder)}, 'pack')`,
      'console.log(await entry.answer())',
      'end()',
    ].join('\n')
    for (const _again of [1, 2])
      expect(execFileSync(process.execPath, ['--input-type=module', '-e', call], { encoding: 'utf8' })).toBe('Module\n')
  })

  it('is made by two calls at once', async () => {
    const [first, second] = await Promise.all([compiledCommandLine(root), compiledCommandLine(root)])
    expect(first).toBe(second)
  })
})
