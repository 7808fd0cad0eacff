import { describe, expect, it } from 'vitest'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { branchesOf } from '../item/branches.ts'
import { applyCommand } from './commands.ts'
import { changeBetween, withChange } from './change.ts'
import { writeCrateFolder, readCrateFolder } from './crate-folder.ts'
import { planItems } from './plan-items.ts'
import { presetFor, readPresets, readingOf, withPreset } from './preset.ts'
import { salvageCrate } from './salvage.ts'
import { newCrate, readChanged, type Crate, type CrateItem } from './schema.ts'

const file = (path: string) => ({ path, bytes: new Uint8Array([1]) })
const posts = readPresets(
  '[{"title": "Posts", "files": ["post_*", "art/*.glb"], "kind": "prop", "unit": "cm", "up": "+z", "worklist": null}]',
  'posts.json',
)
const item: CrateItem = {
  id: 'bell',
  name: 'Bell',
  kind: 'prop',
  main: 'bell.glb',
  sources: [],
  reading: { links: {} },
  worklist: [],
  waivers: [],
}
const crate = {
  ...newCrate('Landing', { rulebook: tarnAndTiller, stock: null }, []),
  items: [item, { ...item, id: 'gate' }],
}

describe('what files become', () => {
  it('is an item a mesh, each with what it may ask for and no other mesh', () => {
    const plan = planItems([file('a/post_1.obj'), file('b/post_2.glb'), file('a/wood.png'), file('a/post_1.mtl')], [])
    expect(plan.map(({ title, alone, files }) => [title, alone, files.map(({ path }) => path)])).toEqual([
      ['Post 1', false, ['a/post_1.obj', 'a/wood.png', 'a/post_1.mtl']],
      ['Post 2', false, ['b/post_2.glb', 'a/wood.png', 'a/post_1.mtl']],
    ])
  })

  it('is one item where they are the models of one, and one for each colour map of pictures alone', () => {
    expect(planItems([file('hat_lying.obj'), file('hat_worn.obj')], ['lying', 'worn'])).toMatchObject([
      { title: 'Hat', models: { lying: 'hat_lying.obj', worn: 'hat_worn.obj' } },
    ])
    const pictures = ['planks_col.png', 'planks_nrm.png', 'brick_col.png'].map(file)
    expect(planItems(pictures, []).map(({ title, files }) => [title, files.length])).toEqual([
      ['Planks', 2],
      ['Brick', 1],
    ])
  })

  it('is each thing of a scene by itself, whatever holds them together', () => {
    const document = documentOf({ bench: unitBox(), lamp: unitBox(), shade: unitBox() })
    const [scene] = document.getRoot().listScenes()
    const [bench, lamp, shade] = scene.listChildren()
    const all = document.createNode('everything').addChild(document.createNode('turned').addChild(bench).addChild(lamp))
    lamp.addChild(shade)
    scene.addChild(all)
    expect(branchesOf(document)).toEqual([
      { name: 'bench', parts: ['bench'] },
      { name: 'lamp', parts: ['lamp', 'shade'] },
    ])
  })
})

describe('a preset', () => {
  it('is for files by their names, or by their paths where it says a folder', () => {
    expect(presetFor(posts, 'wherever/Post_04.glb')?.title).toBe('Posts')
    expect(presetFor(posts, 'art/lamp.glb')?.title).toBe('Posts')
    expect(presetFor(posts, 'lamp.glb')).toBeNull()
  })

  it('says how they are read, and leaves the rest as it was', () => {
    expect(readingOf(posts[0], { metresPerUnit: 1, forward: '+x' })).toEqual({
      metresPerUnit: 0.01,
      up: '+z',
      forward: '+x',
    })
    expect(readingOf(null, { metresPerUnit: 1 })).toEqual({ metresPerUnit: 1 })
  })

  it('is a bare worklist too, which stands after what an item begins with', () => {
    const worklist = [{ id: 'step-1', step: 'weld', on: true, parameters: {}, reason: null }]
    const [bare] = readPresets(JSON.stringify(worklist), 'weld.json')
    expect(presetFor([bare], 'anything.obj')).toBe(bare)
    const first = { ...worklist[0], step: 'keep-parts' }
    const entries = withPreset([first], bare) ?? []
    expect(entries.map(({ step }) => step)).toEqual(['keep-parts', 'weld'])
    expect(new Set(entries.map(({ id }) => id)).size).toBe(2)
    expect(withPreset([first], posts[0])).toBeNull()
  })

  it('is kept with the crate: in its folder, in changes, and one that is broken is set aside', () => {
    const withPosts = applyCommand(crate, { do: 'set-presets', presets: posts })
    expect(withPosts.presets).toEqual(posts)
    const back = changeBetween(withPosts, crate)
    expect(withChange(withPosts, back).presets ?? []).toEqual([])
    const files = writeCrateFolder({ crate: withPosts, sources: new Map() })
    expect(readCrateFolder(files, 'landing').description).toMatchObject({ presets: posts })
    const salvaged = salvageCrate({ ...withPosts, presets: [...posts, { title: 3 }] }, 'landing', null)
    expect(salvaged).toMatchObject({ crate: { presets: posts }, setAside: [{ what: 'a preset' }] })
  })
})

describe('a crate that was changed', () => {
  it('is read where it is other, and keeps what is the same', () => {
    const after = applyCommand(crate, { do: 'set-kind', item: 'bell', kind: 'mover' })
    const read = readChanged(crate, after)
    expect(read).toEqual(after)
    expect(read.items[1]).toBe(crate.items[1])
    expect(read.rulebook).toBe(crate.rulebook)
    expect(JSON.stringify(read)).toBe(JSON.stringify(after))
  })

  it.each([
    ['an item that is not whole', { ...crate, items: [crate.items[0], { ...crate.items[1], kind: 3 }] }],
    ['two items of one id', { ...crate, items: [crate.items[0], crate.items[0]] }],
    ['a name that is none', { ...crate, name: '' }],
    ['a rulebook that is not whole', { ...crate, rulebook: { id: 'x' } }],
  ])('is refused with %s', (_what, after) => {
    expect(() => readChanged(crate, after as Crate)).toThrow()
  })
})

describe('several commands together', () => {
  it('are done as one, all or none', () => {
    const renamed = applyCommand(crate, {
      do: 'several',
      commands: [
        { do: 'set-kind', item: 'bell', kind: 'mover' },
        { do: 'remove-item', item: 'gate' },
      ],
    })
    expect(renamed.items.map(({ id, kind }) => [id, kind])).toEqual([['bell', 'mover']])
    const wrong = {
      do: 'several' as const,
      commands: [
        { do: 'set-kind' as const, item: 'bell', kind: 'mover' },
        { do: 'set-kind' as const, item: 'oar', kind: 'prop' },
      ],
    }
    expect(() => applyCommand(crate, wrong)).toThrow(/no longer there/)
    expect(crate.items[0].kind).toBe('prop')
  })
})
