import { FOLDER, iron, mapPath, type RawPack } from './raw-pack.ts'

export const ENTRY = `${FOLDER}/entry.json`
export const LOOK = `${FOLDER}/looks/plain.json`
export const text = (value: string): Uint8Array => new TextEncoder().encode(value)
export const colour = mapPath('keg_wood_col')
export const normal = mapPath('keg_wood_nrm')
export const mixed = mapPath('keg_wood_mix')

export function rename(pack: RawPack, from: string, to: string): void {
  for (const material of pack.gltf.materials) if (material.name === from) material.name = to
  pack.look.materials[to] = pack.look.materials[from]
  delete pack.look.materials[from]
}

export function moveMap(pack: RawPack, from: string, to: string): void {
  pack.maps.set(to, pack.maps.get(from) ?? new Uint8Array(0))
  pack.maps.delete(from)
  for (const { maps } of Object.values(pack.look.materials))
    for (const role of Object.keys(maps)) if (maps[role] === from) maps[role] = to
}

export function word(pack: RawPack, path: string, offset: number, value: number): void {
  const bytes = (pack.maps.get(path) ?? new Uint8Array(148)).slice()
  new DataView(bytes.buffer).setUint32(offset, value, true)
  pack.maps.set(path, bytes)
}

export function secondLook(
  pack: RawPack,
  change: (look: RawPack['look']) => void,
  name = 'red',
  also: () => void = () => undefined,
): void {
  const look = structuredClone(pack.look)
  look.look = name
  change(look)
  also()
  const path = `${FOLDER}/looks/${name}.json`
  pack.entry['looks'] = [...(pack.entry['looks'] as string[]), path]
  pack.finish.push((files) => files.set(path, text(JSON.stringify(look))))
}

export function fiveMaterials(pack: RawPack): void {
  for (const letter of ['a', 'b', 'c']) {
    const name = `keg_${letter}@iron`
    pack.look.materials[name] = structuredClone(pack.look.materials[iron])
    pack.gltf.materials.push({ name })
    const [primitive] = pack.gltf.meshes[1].primitives
    pack.gltf.meshes[1].primitives.push({ ...primitive, material: pack.gltf.materials.length - 1 })
  }
}
