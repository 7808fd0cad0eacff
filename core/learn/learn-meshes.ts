import type { Document } from '@gltf-transform/core'
import { partsBounds } from '../item/measure.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { countMeshCorners, countMeshTriangles, listAllParts, listSceneNodes } from '../item/parts.ts'
import { openMesh } from '../pack/openers/open-mesh.ts'
import { partListWords, type SeenPack } from './game-files.ts'
import type { SeenItem } from './learn-files.ts'
import { largestSeen, Tally, type LearnedLine } from './learned.ts'

type Writer = Rulebook['files']['mesh']['writer']

/** A mesh, read as the game writes it: in the game's axes. */
export interface SeenMesh {
  pack: SeenPack
  /** The item whose entry names it; null where none does. */
  item: SeenItem | null
  path: string
  writer: Writer
  document: Document
}

/** Something whose height is known: a person, a doorway, a thing of the game. */
export interface KnownHeight {
  /** The path of its mesh in the pack. */
  path: string
  metres: number
}

const writerOf = (path: string): Writer => {
  const ending = path.toLowerCase().split('.').pop()
  return ending === 'glb' || ending === 'gltf' || ending === 'obj' || ending === 'dae' ? ending : 'part-list'
}

/**
 * Every mesh there is; what cannot be read is passed over and told by its file.
 * @example const { meshes, unread } = await readMeshes(packs, items, rulebook)
 */
export async function readMeshes(
  packs: readonly SeenPack[],
  items: readonly SeenItem[],
  base: Rulebook,
): Promise<{ meshes: SeenMesh[]; unread: { file: string; why: string }[] }> {
  const meshes: SeenMesh[] = []
  const unread: { file: string; why: string }[] = []
  for (const pack of packs) {
    const own = items.filter((item) => item.pack === pack)
    const itemOf = new Map(own.flatMap((item) => item.meshes.map((path) => [path, item] as const)))
    for (const path of pack.meshes) {
      const item = itemOf.get(path) ?? null
      const bytes = pack.files.get(path) ?? new Uint8Array(0)
      const writer = writerOf(path)
      const words = writer === 'part-list' ? partListWords(bytes) : null
      const rulebook = {
        ...base,
        files: { ...base.files, mesh: { ...base.files.mesh, writer } },
        halfBlocks: words && { shortestEdge: 0, accuracyShare: 1e-4, mostTrays: 1e4, words },
      } as Rulebook
      try {
        const mesh = { path, bytes, files: pack.files, beside: item?.entry.value ?? {} }
        meshes.push({ pack, item, path, writer, document: await openMesh(mesh, rulebook) })
      } catch (error) {
        unread.push({ file: path, why: error instanceof Error ? error.message : String(error) })
      }
    }
  }
  return { meshes, unread }
}

/**
 * What meshes say: their format, axes and unit, the names in them, and how large they are by kind.
 * @example const lines = learnMeshes(meshes, items, [], rulebook)
 */
export function learnMeshes(
  meshes: readonly SeenMesh[],
  items: readonly SeenItem[],
  known: readonly KnownHeight[],
  base: Rulebook,
): LearnedLine[] {
  const writer = new Tally<string>()
  const images = new Tally<string>()
  for (const mesh of meshes) {
    writer.add(mesh.writer, mesh.path)
    images.add(mesh.document.getRoot().listTextures().length > 0 ? 'inside' : 'none', mesh.path)
  }
  const list = new Tally<Record<string, string>>()
  for (const { writer: of, path, pack } of meshes) {
    const words = of === 'part-list' ? partListWords(pack.files.get(path) ?? new Uint8Array(0)) : null
    if (words) list.add(words, path)
  }
  return [
    ...[
      writer.line(['files', 'mesh', 'writer'], 'what the meshes are', true),
      images.line(['files', 'mesh', 'images'], 'whether meshes hold pictures', true),
      list.line(['halfBlocks', 'words'], 'what the list of half-blocks calls things', true),
    ].flatMap((line) => line ?? []),
    ...learnSpace(meshes, known),
    ...learnNames(meshes, items),
    ...learnParts(meshes, base),
    ...learnKinds(meshes, items, base),
  ]
}

const ON_GROUND = 0.02

/** Up and metres a unit as a COLLADA file declares them (COLLADA 1.4.1, asset). */
function declaredIn(bytes: Uint8Array | undefined): { up: string | null; metres: number | null } {
  const head = new TextDecoder().decode(bytes?.subarray(0, 20_000))
  const up = /<up_axis>\s*([XYZ])_UP/.exec(head)?.[1]
  const metres = Number(/<unit\b[^>]*\bmeter="([^"]*)"/.exec(head)?.[1])
  return { up: up === undefined ? null : `+${up.toLowerCase()}`, metres: metres > 0 ? metres : null }
}

/** Which way is up, by what things stand on; how long a unit is, by what the modder knows the height of. */
function learnSpace(meshes: readonly SeenMesh[], known: readonly KnownHeight[]): LearnedLine[] {
  const up = new Tally<string>()
  const unit = new Tally<number>()
  const declaredUp = new Tally<string>()
  const declaredUnit = new Tally<number>()
  for (const { pack, path, writer, document } of meshes) {
    const declared = writer === 'dae' ? declaredIn(pack.files.get(path)) : null
    if (declared?.up) declaredUp.add(declared.up, path)
    if (declared?.metres) declaredUnit.add(declared.metres, path)
    const box = partsBounds(listAllParts(document))
    const sizes = [0, 1, 2].map((axis) => box.max[axis] - box.min[axis])
    const standing = [0, 1, 2].filter(
      (axis) => sizes[axis] > 0 && Math.abs(box.min[axis]) < sizes[axis] * ON_GROUND && box.max[axis] > 0,
    )
    if (standing.length === 1) up.add(['+x', '+y', '+z'][standing[0]], path)
  }
  const [axis] = [...declaredUp.values(), ...up.values()]
  for (const { path: named, metres } of known) {
    const mesh = meshes.find(({ path }) => path === named || path.endsWith(`/${named}`))
    const box = mesh && partsBounds(listAllParts(mesh.document))
    const along = axis === undefined ? 1 : ['+x', '+y', '+z'].indexOf(axis)
    if (box && mesh) unit.add(Number((metres / (box.max[along] - box.min[along])).toPrecision(3)), mesh.path)
  }
  return [
    declaredUp.line(['space', 'up'], 'what the meshes declare', true) ??
      up.line(['space', 'up'], 'what things stand on: their lowest side lies at nought along one axis alone'),
    unit.line(['space', 'unit', 'metres'], 'how tall what you know is in the files', true) ??
      declaredUnit.line(['space', 'unit', 'metres'], 'what the meshes declare', true),
  ].flatMap((line) => line ?? [])
}

/** Names that are accepted, in a pattern that is as wide as what was seen. */
function learnNames(meshes: readonly SeenMesh[], items: readonly SeenItem[]): LearnedLine[] {
  const names = [
    ...new Set([
      ...items.map(({ item }) => item),
      ...meshes.flatMap(({ document }) => listSceneNodes(document).map((node) => node.getName())),
    ]),
  ].filter((name) => name !== '')
  if (names.length === 0) return []
  const letters = [...new Set(names.join(''))]
  const classes: [RegExp, string, string][] = [
    [/[a-z]/, 'a-z', 'a-z'],
    [/[A-Z]/, 'A-Z', 'A-Z'],
    [/[0-9]/, '0-9', '0-9'],
  ]
  const ranges = classes.filter(([pattern]) => letters.some((letter) => pattern.test(letter)))
  const others = letters.filter((letter) => !/[A-Za-z0-9]/.test(letter)).sort()
  const escaped = others.map((letter) => (/[\]\\^-]/.test(letter) ? `\\${letter}` : letter)).join('')
  const inside = ranges.map(([, range]) => range).join('') + escaped
  const first = names.every((name) => /^[a-z]/.test(name))
    ? '[a-z]'
    : names.every((name) => /^[a-z]/i.test(name))
      ? '[A-Za-z]'
      : ''
  const pattern = first === '' ? `[${inside}]+` : `${first}[${inside}]*`
  const described = [
    ...ranges.map(([, , said]) => said),
    ...others.map((letter) => (letter === ' ' ? 'spaces' : letter)),
  ].join(', ')
  const sureness = names.length > 20 ? 'likely' : 'guess'
  const line = (step: string, value: unknown, why: string): LearnedLine => ({
    path: ['names', step],
    value,
    files: meshes.length,
    sureness,
    why,
    against: [],
  })
  return [
    line('pattern', pattern, `${names.length} names of items and nodes`),
    line('described', `${described}${first === '' ? '' : ', beginning with a letter'}`, 'the same in words'),
    line(
      'longest',
      Math.max(...names.map(({ length }) => length)),
      'the longest name seen; the game may take longer ones',
    ),
  ]
}

const SHAPES = 'box|ball|capsule|cylinder|hull|mesh'

/** How solids, levels and shadows are called. */
function learnParts(meshes: readonly SeenMesh[], base: Rulebook): LearnedLine[] {
  const solids = new Tally<string>()
  const levels = new Tally<string>()
  const shadows = new Tally<string>()
  const counts: { count: number; file: string }[] = []
  for (const { path, document } of meshes) {
    const nodes = listSceneNodes(document)
    const solidNodes = nodes.filter(
      (node) => new RegExp(`(?:${SHAPES})`).test(node.getName()) && /\d\d$/.test(node.getName()),
    )
    for (const node of solidNodes)
      solids.add(
        node
          .getName()
          .replace(new RegExp(SHAPES), '{shape}')
          .replace(/\d\d+$/, '{nn}'),
        path,
      )
    counts.push({ count: solidNodes.length, file: path })
    for (const node of nodes) {
      const parent = node.getParentNode()
      const name = node.getName()
      if (!parent?.getMesh() || !node.getMesh() || !name.startsWith(parent.getName()) || solidNodes.includes(node))
        continue
      const rest = name.slice(parent.getName().length)
      if (/^\D*\d$/.test(rest)) levels.add(rest.replace(/\d$/, '{level}'), path)
      else if (rest !== '') shadows.add(rest, path)
    }
  }
  return [
    solids.line(['solids', 'name'], 'nodes that are called after shapes, with a number'),
    largestSeen(['solids', 'mostPerItem'], counts, 'solids of an item'),
    levels.line(['levels', 'nameSuffix'], 'nodes below others that are called as they are, with a number'),
    shadows.line(
      ['levels', 'shadow', 'nameSuffix'],
      `nodes below others that are called as they are, with a word, as in ${base.title}`,
    ),
  ].flatMap((line) => line ?? [])
}

/** Each kind of item that was seen, with the largest counts of it. */
function learnKinds(meshes: readonly SeenMesh[], items: readonly SeenItem[], base: Rulebook): LearnedLine[] {
  // Where nothing says of which kind a mesh is, all are of one.
  const named = [...new Set(items.map(({ kind }) => kind))].filter((id) => /^[a-z][a-z0-9_]*$/.test(id))
  const ids = named.length > 0 || meshes.length === 0 ? named : [base.kinds[0].id]
  return ids.map((id): LearnedLine => {
    const of = named.length === 0 ? meshes : meshes.filter((mesh) => mesh.item?.kind === id)
    const first = items.find(({ kind }) => kind === id)
    const like =
      base.kinds.find((kind) => kind.id === id) ??
      base.kinds.find(({ mesh }) => (mesh !== null) === of.length > 0) ??
      base.kinds[0]
    const solid = new RegExp(SHAPES)
    const view = (mesh: SeenMesh) =>
      listAllParts(mesh.document).filter(({ name }) => !(solid.test(name) && /\d\d$/.test(name)))
    const most = (count: (mesh: SeenMesh) => number): number => Math.max(1, ...of.map(count))
    const triangles = most((mesh) => view(mesh).reduce((sum, part) => sum + countMeshTriangles(part.mesh), 0))
    const corners = most((mesh) =>
      Math.max(0, ...listAllParts(mesh.document).map((part) => countMeshCorners(part.mesh))),
    )
    const blocks = of.some(({ writer }) => writer === 'part-list')
    const kind: Kind = {
      ...structuredClone(like),
      id,
      title: like.id === id ? like.title : id.charAt(0).toUpperCase() + id.slice(1).replaceAll('_', ' '),
      summary: like.id === id ? like.summary : 'As it was seen in files of the game.',
      category: first?.category || like.category,
      mesh:
        of.length === 0 || !like.mesh
          ? null
          : {
              ...like.mesh,
              triangles,
              withSolids: null,
              cornersPerPart: corners,
              halfBlocks: blocks ? triangles * 2 : null,
              sections: like.mesh.sections,
            },
    }
    return {
      path: ['kinds', id],
      value: kind,
      files: Math.max(1, of.length),
      sureness: 'guess',
      why:
        `${Math.max(of.length, items.filter((item) => item.kind === id).length)} of them; at most ${triangles} ` +
        `triangles were seen; what is not in files is as “${like.id}” of ${base.title}`,
      against: [],
    }
  })
}
