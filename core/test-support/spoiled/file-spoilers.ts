import { FOLDER, iron, mapPath, rawDds, wood, type RawPack } from './raw-pack.ts'

/** What the loader and check are to make of a spoiled pack. */
export type Verdict = 'refused' | 'complaint' | 'silent'
export type Spoiler = [what: string, verdict: Verdict, spoil: (pack: RawPack) => void]

const ENTRY = `${FOLDER}/entry.json`
const LOOK = `${FOLDER}/looks/plain.json`
const text = (value: string): Uint8Array => new TextEncoder().encode(value)
const colour = mapPath('keg_wood_col')
const normal = mapPath('keg_wood_nrm')
const mixed = mapPath('keg_wood_mix')

/** Archive, manifest and entry. */
export const archiveSpoilers: readonly Spoiler[] = [
  ['nothing at all', 'silent', () => undefined],
  ['an archive that is cut off', 'refused', (pack) => { pack.finishArchive.push((zip) => zip.subarray(0, zip.length / 2)) }],
  ['no archive', 'refused', (pack) => { pack.finishArchive.push(() => text('keg')) }],
  ['a path that climbs out', 'refused', (pack) => { pack.finish.push((files) => files.set('items/../../keg.txt', text('x'))) }],
  ['a path from the root of a disk', 'refused', (pack) => { pack.finish.push((files) => files.set('/keg.txt', text('x'))) }],
  ['a path on a drive', 'refused', (pack) => { pack.finish.push((files) => files.set('c:/keg.txt', text('x'))) }],
  ['a path that climbs out by backslashes', 'refused', (pack) => { pack.finish.push((files) => files.set('items\\..\\..\\keg.txt', text('x'))) }],
  ['a manifest of another game', 'refused', (pack) => { pack.manifest = { game: 'hollin-keep' } }],
  ['a manifest of another version', 'complaint', (pack) => { pack.manifest = { version: '1.3' } }],
  ['a manifest without files', 'refused', (pack) => { pack.manifest = { files: undefined } }],
  ['a manifest that lists a file too many', 'refused', (pack) => { pack.manifest = { files: [{ path: 'lost.txt', bytes: 1, sha256: 'x' }] } }],
  ['a manifest that lists nothing', 'complaint', (pack) => { pack.manifest = { files: [] } }],
  ['a manifest with bytes below zero', 'refused', (pack) => { pack.manifest = { files: [{ path: ENTRY, bytes: -1, sha256: 'x' }] } }],
  ['a manifest with another checksum', 'refused', (pack) => { pack.manifest = { files: [{ path: ENTRY, bytes: 3, sha256: 'x' }] } }],
  ['an entry that is not JSON', 'refused', (pack) => { pack.finish.push((files) => files.set(ENTRY, text('{'))) }],
  ['no entry', 'refused', (pack) => { pack.finish.push((files) => files.delete(ENTRY)) }],
  ['an entry without looks', 'refused', (pack) => { pack.entry['looks'] = [] }],
  ['an entry of a kind that is not there', 'refused', (pack) => { pack.entry['kind'] = 'boat' }],
  ['an entry of another category', 'refused', (pack) => { pack.entry['category'] = 'loose' }],
  ['an entry of another name', 'refused', (pack) => { pack.entry['item'] = 'barrel' }],
  ['an entry with a name that is not accepted', 'refused', (pack) => { pack.entry['item'] = 'Keg 1' }],
  ['an entry like what is not in stock', 'refused', (pack) => { pack.entry['like'] = 'stock_barrel' }],
  ['an entry like what is in stock', 'silent', (pack) => { pack.entry['like'] = 'stock_crate' }],
  ['an entry without a mesh', 'refused', (pack) => { delete pack.entry['mesh'] }],
  ['an entry whose mesh is elsewhere', 'refused', (pack) => { pack.entry['mesh'] = 'keg.glb' }],
  ['an entry whose look is elsewhere', 'refused', (pack) => { pack.entry['looks'] = ['plain.json'] }],
  ['the same entry in two folders', 'refused', (pack) => { pack.finish.push((files) => files.set('items/props/other/entry.json', files.get(ENTRY) ?? text(''))) }],
  ['a mesh for a finish', 'refused', (pack) => { pack.entry['kind'] = 'finish' }],
  ['an entry with words of its own', 'silent', (pack) => { pack.entry['author'] = 'Edda' }],
]

/** Looks and maps. */
export const lookSpoilers: readonly Spoiler[] = [
  ['a look that is not JSON', 'refused', (pack) => { pack.finish.push((files) => files.set(LOOK, text('look'))) }],
  ['a look that forgets a material', 'refused', (pack) => { delete pack.look.materials[iron] }],
  ['a look with a material too many', 'silent', (pack) => { pack.look.materials['keg_rope@rope'] = { shading: 'plain', maps: {} } }],
  ['a shading that is not there', 'refused', (pack) => { pack.look.materials[iron].shading = 'velvet' }],
  ['a shading without its map', 'refused', (pack) => { pack.look.materials[iron].maps = {} }],
  ['a shading with a map it forbids', 'refused', (pack) => { pack.look.materials[wood].shading = 'plain' }],
  ['a role that is not there', 'refused', (pack) => { pack.look.materials[iron].maps['gloss'] = colour }],
  ['a map that is not in the pack', 'refused', (pack) => { pack.look.materials[iron].maps['colour'] = mapPath('keg_lost_col') }],
  ['a map of the game’s own that is not there', 'refused', (pack) => { pack.look.materials[iron].maps['colour'] = 'stock/nothing_col.dds' }],
  ['a normal map as colour', 'refused', (pack) => { pack.look.materials[iron].maps['colour'] = normal }],
  ['the same map for two materials', 'silent', (pack) => { pack.look.materials[iron].maps['colour'] = colour; pack.maps.delete(mapPath('keg_iron_col')) }],
  ['a surface that is not there', 'refused', (pack) => rename(pack, iron, 'keg_iron@cheese')],
  ['a material without a tag', 'refused', (pack) => rename(pack, iron, 'keg_iron')],
  ['a material with two tags', 'refused', (pack) => rename(pack, iron, 'keg_iron@iron@stone')],
  ['a flag that is not there', 'refused', (pack) => rename(pack, iron, 'keg_iron@iron.boht')],
  ['a flag that is there', 'silent', (pack) => rename(pack, iron, 'keg_iron@iron.both')],
  ['a material name that is not accepted', 'refused', (pack) => rename(pack, iron, 'Keg Iron@iron')],
  ['a material without a name', 'refused', (pack) => rename(pack, iron, '')],
  ['a second look that is right', 'silent', (pack) => secondLook(pack, () => undefined)],
  ['a second look that forgets a material', 'refused', (pack) => secondLook(pack, (look) => { delete look.materials[wood] })],
  ['a second look without a map', 'refused', (pack) => secondLook(pack, (look) => { look.materials[wood].maps = { colour } })],
  ['a second look of another shading', 'silent', (pack) => secondLook(pack, (look) => { look.materials[wood] = { shading: 'plain', maps: { colour } } })],
  ['a map name that is not accepted', 'refused', (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('Keg-Iron_col'))],
  ['a map name with another ending', 'refused', (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('keg_iron_nrm'))],
  ['a map that is a PNG', 'refused', (pack) => { pack.maps.set(colour, Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13])) }],
  ['an empty map', 'refused', (pack) => { pack.maps.set(colour, new Uint8Array(0)) }],
  ['a map that is cut off', 'refused', (pack) => { pack.maps.set(colour, rawDds(16, 16, 99).subarray(0, 300)) }],
  ['a map with bytes after its end', 'refused', (pack) => { pack.maps.set(colour, Uint8Array.from([...rawDds(16, 16, 99), 1])) }],
  ['a map that says one level more', 'refused', (pack) => word(pack, colour, 28, 6)],
  ['a map without its small levels', 'refused', (pack) => { pack.maps.set(colour, rawDds(16, 16, 99, 1)) }],
  ['a map of no levels', 'refused', (pack) => word(pack, colour, 28, 0)],
  ['a map of another header size', 'refused', (pack) => word(pack, colour, 4, 100)],
  ['a map with the old header', 'refused', (pack) => word(pack, colour, 84, 0x31545844)],
  ['a cube', 'refused', (pack) => word(pack, colour, 136, 4)],
  ['a cube by its old flags', 'refused', (pack) => word(pack, colour, 112, 0xfe00)],
  ['a volume', 'refused', (pack) => word(pack, colour, 132, 4)],
  ['a volume by its old flags', 'refused', (pack) => word(pack, colour, 112, 0x200000)],
  ['a row of textures', 'refused', (pack) => word(pack, colour, 140, 6)],
  ['plain pixels', 'refused', (pack) => word(pack, colour, 128, 28)],
  ['colour as numbers', 'complaint', (pack) => word(pack, colour, 128, 98)],
  ['numbers as colour', 'complaint', (pack) => word(pack, mixed, 128, 99)],
  ['a codec of another role', 'refused', (pack) => { pack.maps.set(normal, rawDds(16, 16, 98)) }],
  ['sides that are no powers of two', 'refused', (pack) => { pack.maps.set(colour, rawDds(24, 16, 99)) }],
  ['a map that is too large', 'refused', (pack) => { pack.maps.set(colour, rawDds(2048, 2048, 72)) }],
  ['a map that is too small', 'refused', (pack) => { pack.maps.set(colour, rawDds(2, 2, 99)) }],
  ['a map that is too long', 'refused', (pack) => { pack.maps.set(colour, rawDds(64, 8, 99)) }],
  ['more texture memory than there is', 'refused', (pack) => { for (let number = 0; number < 6; number++) secondLook(pack, (look) => { look.materials[iron].maps = { colour: mapPath(`keg_${'abcdef'[number]}_col`) } }, `look_${'abcdef'[number]}`, () => pack.maps.set(mapPath(`keg_${'abcdef'[number]}_col`), rawDds(1024, 1024, 99))) }],
  ['five materials', 'refused', (pack) => fiveMaterials(pack)],
]

function rename(pack: RawPack, from: string, to: string): void {
  for (const material of pack.gltf.materials) if (material.name === from) material.name = to
  pack.look.materials[to] = pack.look.materials[from]
  delete pack.look.materials[from]
}

function moveMap(pack: RawPack, from: string, to: string): void {
  pack.maps.set(to, pack.maps.get(from) ?? new Uint8Array(0))
  pack.maps.delete(from)
  for (const { maps } of Object.values(pack.look.materials)) for (const role of Object.keys(maps)) if (maps[role] === from) maps[role] = to
}

function word(pack: RawPack, path: string, offset: number, value: number): void {
  const bytes = (pack.maps.get(path) ?? new Uint8Array(148)).slice()
  new DataView(bytes.buffer).setUint32(offset, value, true)
  pack.maps.set(path, bytes)
}

function secondLook(pack: RawPack, change: (look: RawPack['look']) => void, name = 'red', also: () => void = () => undefined): void {
  const look = structuredClone(pack.look)
  look.look = name
  change(look)
  also()
  const path = `${FOLDER}/looks/${name}.json`
  pack.entry['looks'] = [...(pack.entry['looks'] as string[]), path]
  pack.finish.push((files) => files.set(path, text(JSON.stringify(look))))
}

function fiveMaterials(pack: RawPack): void {
  for (const letter of ['a', 'b', 'c']) {
    const name = `keg_${letter}@iron`
    pack.look.materials[name] = structuredClone(pack.look.materials[iron])
    pack.gltf.materials.push({ name })
    const [primitive] = pack.gltf.meshes[1].primitives
    pack.gltf.meshes[1].primitives.push({ ...primitive, material: pack.gltf.materials.length - 1 })
  }
}
