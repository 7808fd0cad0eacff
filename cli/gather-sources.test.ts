import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { gatherSources, listMeshes } from './files.ts'
import { call } from './test-support.ts'

const triangle = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'

/** A folder with such files in it, by their paths. */
function folderOf(files: Record<string, string>): string {
  const folder = mkdtempSync(join(tmpdir(), 'gather-'))
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true })
    writeFileSync(join(folder, path), content)
  }
  return folder
}

describe('what a call brings', () => {
  it('is found however deep it lies, and hidden or installed things are not', () => {
    const folder = folderOf({
      'a/b/c/d/e/f/g/h/post.obj': triangle,
      '.trash/old.obj': triangle,
      'node_modules/some/thing.obj': triangle,
      'notes.txt': 'nothing to read',
    })
    expect(listMeshes([folder]).map(({ name }) => name)).toEqual(['a/b/c/d/e/f/g/h/post.obj'])
    expect(gatherSources([folder]).map(({ path }) => path)).toEqual(['post.obj'])
  })

  it('has the pictures of a mesh from the folder beside its own that is named for them', () => {
    const folder = folderOf({
      'stove/source/stove.obj': triangle,
      'stove/source/stove.mtl': 'newmtl iron\n',
      'stove/source/other.obj': triangle,
      'stove/Textures/iron.png': 'pixels',
      'stove/renders/front.png': 'pixels',
    })
    const brought = gatherSources([join(folder, 'stove/source/stove.obj')])
    expect(brought.map(({ path, beside }) => [path, beside === true]).sort()).toEqual([
      ['Textures/iron.png', true],
      ['source/stove.mtl', true],
      ['source/stove.obj', false],
    ])
  })

  it('is as many files as may be, however many others lie between', () => {
    const files: Record<string, string> = { 'z/last.obj': triangle }
    for (let number = 0; number < 2100; number++) files[`a/note_${number}.txt`] = ''
    expect(listMeshes([folderOf(files)])).toHaveLength(1)
  })

  it('is told to be nothing where only what is passed over has meshes', async () => {
    const folder = folderOf({ 'node_modules/some/thing.obj': triangle })
    const { code, complained } = await call('prepare', folder, '--rulebook', 'tarn-and-tiller', '--report')
    expect(code).toBe(2)
    expect(complained).toContain('hidden or named node_modules')
  })
})
