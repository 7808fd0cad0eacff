import { bodyRoleSchema } from '../item/body-role.ts'
import { climbsOut } from '../support/paths.ts'
import { fillTemplate } from '../support/templates.ts'
import type { Rulebook } from './schema.ts'
import { cleanName } from './clean-name.ts'
import { carriedBy } from './formats.ts'
import { wrongBodies } from './wrong-bodies.ts'
import { wrongCatalogue } from './wrong-catalogue.ts'
import { wrongGroups } from './wrong-groups.ts'
import { limitsInOrder } from './limits-in-order.ts'
import { isGameName, levelSuffix, solidName } from './names.ts'

/** A place of a rulebook and what is wrong there. */
export interface Contradiction {
  path: (string | number)[]
  message: string
}

/**
 * Where a rulebook asks in one place for what it does not have in another, or for what none of its writers writes, each
 * in a sentence. Its fields alone are right already.
 *
 * @example contradictions(rulebook) // []
 */
export function contradictions(rulebook: Rulebook): Contradiction[] {
  return [
    ...unknownRoles(rulebook),
    ...unknownFlags(rulebook),
    ...unknownLayers(rulebook),
    ...wrongSlots(rulebook),
    ...samePaths(rulebook),
    ...climbingPaths(rulebook),
    ...notWritten(rulebook),
    ...wrongHalfBlocks(rulebook),
    ...notNameable(rulebook),
    ...wrongSkeletons(rulebook),
    ...wrongGroups(rulebook),
    ...wrongBodies(rulebook),
    ...wrongCatalogue(rulebook),
    ...limitsInOrder(rulebook),
  ]
}

function unknownRoles({ maps, materials }: Rulebook): Contradiction[] {
  const roles = maps.roles.map(({ role }) => role)
  const found: Contradiction[] = []
  if (new Set(roles).size < roles.length) found.push({ path: ['maps', 'roles'], message: 'two roles have one name' })
  for (const [number, { requires, forbids, name }] of materials.shadingModels.entries())
    for (const role of [...requires, ...forbids])
      if (!roles.includes(role))
        found.push({
          path: ['materials', 'shadingModels', number],
          message: `the shading “${name}” speaks of “${role}” maps, and there is no such role`,
        })
  const { naming } = materials
  if (naming.form === 'path' && !roles.includes(naming.ofRole))
    found.push({
      path: ['materials', 'naming', 'ofRole'],
      message: `materials are named after their “${naming.ofRole}” map, and there is no such role`,
    })
  return found
}

const unknownFlags = ({ materials }: Rulebook): Contradiction[] =>
  materials.shadingModels.flatMap(({ flag, name }, number) =>
    flag === null || materials.flags.some((known) => known.name === flag)
      ? []
      : [
          {
            path: ['materials', 'shadingModels', number, 'flag'],
            message: `the shading “${name}” goes with the flag “${flag}”, and there is no such flag`,
          },
        ],
  )

const unknownLayers = ({ solids }: Rulebook): Contradiction[] =>
  solids.defaultLayers.flatMap((layer) =>
    solids.layers.some(({ name }) => name === layer)
      ? []
      : [{ path: ['solids', 'defaultLayers'], message: `there is no layer “${layer}”` }],
  )

const wrongSkeletons = ({ stock, points }: Rulebook): Contradiction[] => [
  ...(points.bone.includes('{part}')
    ? []
    : [{ path: ['points', 'bone'], message: 'every bone would have the same name: {part} is not in it' }]),
  ...stock.skeletons.flatMap(({ bones, title }, number) => {
    const listed = new Set<string>()
    return bones.flatMap(({ name, parent }, bone): Contradiction[] => {
      const path = ['stock', 'skeletons', number, 'bones', bone]
      const twice = listed.has(name)
      const stranger = parent !== null && !listed.has(parent)
      listed.add(name)
      return [
        ...(twice ? [{ path, message: `“${title}” has two bones named “${name}”` }] : []),
        ...(stranger ? [{ path, message: `“${name}” hangs on “${parent}”, which is not listed before it` }] : []),
      ]
    })
  }),
]

function wrongSlots({ slots, kinds }: Rulebook): Contradiction[] {
  if (!slots) return []
  const known = new Set(kinds.map(({ id }) => id))
  const seen = new Set<string>()
  return slots.listed.flatMap(({ slot, kinds: of }, number): Contradiction[] => {
    const path = ['slots', 'listed', number]
    // Files that differ in capitals alone are one file on many disks.
    const twice = seen.has(slot.toLowerCase())
    seen.add(slot.toLowerCase())
    const stranger = of.find((kind) => !known.has(kind))
    return [
      ...(twice ? [{ path, message: `the slot “${slot}” is listed twice` }] : []),
      ...(stranger === undefined ? [] : [{ path, message: `there is no kind “${stranger}” to stand at “${slot}”` }]),
    ]
  })
}

/** Paths that would be written outside of the pack, or of the folder that it is laid into. */
function climbingPaths({ files: { paths, manifest } }: Rulebook): Contradiction[] {
  const named: [string[], string | undefined][] = [
    [['files', 'manifest', 'path'], manifest.path],
    ...Object.entries(paths).map(([name, template]): [string[], string] => [['files', 'paths', name], template]),
  ]
  return named.flatMap(([path, template]) =>
    template !== undefined && climbsOut(template) ? [{ path, message: 'it leads out of the pack' }] : [],
  )
}

/** Templates by which two items, looks or maps would have one path. */
function samePaths({ files: { paths }, slots }: Rulebook): Contradiction[] {
  const words = (template: string): Set<string> => new Set([...template.matchAll(/\{(\w+)\}/g)].map(([, word]) => word))
  const needs: [keyof typeof paths, string | null][] = [
    ['mesh', null],
    ['entry', null],
    ['look', 'look'],
    ['map', 'map'],
    ['material', 'material'],
  ]
  return needs.flatMap(([name, own]): Contradiction[] => {
    const template = paths[name]
    if (template === undefined) return []
    const said = words(template)
    const path = ['files', 'paths', name]
    if (!slots && (said.has('slot') || said.has('SLOT')))
      return [{ path, message: 'it speaks of a slot, and the game has none' }]
    const ofItem = said.has('item') || said.has('slot') || said.has('SLOT')
    // Maps and texts of materials may be shared by items: packing sees whether they are the same.
    if (!ofItem && (own === null || own === 'look'))
      return [{ path, message: 'two items would have one path: it needs {item} or {slot}' }]
    return own !== null && !said.has(own)
      ? [{ path, message: `two of one item would have one path: it needs {${own}}` }]
      : []
  })
}

/** What a kind needs and the game's mesh files cannot hold. */
function notWritten({ files, kinds, maps, space }: Rulebook): Contradiction[] {
  const found: Contradiction[] = []
  const carried = carriedBy(files.mesh.writer)
  if (files.mesh.writer === 'dae' && space.up.startsWith('-'))
    found.push({ path: ['space', 'up'], message: `DAE declares +x, +y or +z as up, and not ${space.up}` })
  for (const [number, kind] of kinds.entries()) {
    if (kind.bones && !carried.bones)
      found.push({
        path: ['kinds', number, 'bones'],
        message: `${files.mesh.writer.toUpperCase()} holds no bones, and the kind “${kind.id}” bends over some`,
      })
    if (kind.mostLights > 0 && !carried.lights)
      found.push({
        path: ['kinds', number, 'mostLights'],
        message: `${files.mesh.writer.toUpperCase()} holds no lights, and the kind “${kind.id}” has some`,
      })
  }
  for (const [number, kind] of kinds.entries())
    if ((kind.markers || kind.attachPoints) && !carried.tree)
      found.push({
        path: ['kinds', number, kind.markers ? 'markers' : 'attachPoints'],
        message: `${files.mesh.writer.toUpperCase()} holds no places, and the kind “${kind.id}” has some`,
      })
  const blocks = files.texture.writer === 'dds' || files.texture.writer === 'ktx2'
  for (const [number, { role, codecs }] of maps.roles.entries())
    if (codecs.some((codec) => (codec === 'none') === blocks))
      found.push({
        path: ['maps', 'roles', number, 'codecs'],
        message: blocks
          ? `${files.texture.writer.toUpperCase()} is written in blocks, and “${role}” maps ask for none`
          : `${files.texture.writer.toUpperCase()} holds plain pixels, and “${role}” maps ask for blocks`,
      })
  if (!blocks && maps.mipmaps === 'all')
    found.push({ path: ['maps', 'mipmaps'], message: `${files.texture.writer.toUpperCase()} holds no mipmaps` })
  if (files.mesh.images !== 'none')
    found.push({ path: ['files', 'mesh', 'images'], message: 'maps are written as files of their own' })
  return found
}

/** What is built of half-blocks, and what that leaves out. */
function wrongHalfBlocks({ files, halfBlocks, kinds, maps }: Rulebook): Contradiction[] {
  const listed = files.mesh.writer === 'part-list'
  if (listed !== (halfBlocks !== null))
    return [
      {
        path: ['halfBlocks'],
        message: listed
          ? 'a list of parts is made of half-blocks, and none are described'
          : `${files.mesh.writer.toUpperCase()} holds no half-blocks`,
      },
    ]
  const found: Contradiction[] = []
  if (listed && maps.roles.length > 0)
    found.push({ path: ['maps', 'roles'], message: 'half-blocks have no UVs, and the game asks for maps' })
  if (halfBlocks && new Set(Object.values(halfBlocks.words)).size < Object.keys(halfBlocks.words).length)
    found.push({ path: ['halfBlocks', 'words'], message: 'two things have one word' })
  for (const [number, { id, mesh }] of kinds.entries()) {
    if (!mesh) continue
    const path = ['kinds', number, 'mesh', 'halfBlocks']
    if (listed !== (mesh.halfBlocks !== null))
      found.push({
        path,
        message: listed ? `the kind “${id}” says no number of half-blocks` : 'the game has no half-blocks',
      })
    else if (mesh.halfBlocks !== null && mesh.triangles * 2 !== mesh.halfBlocks)
      found.push({
        path,
        message:
          `two half-blocks make a triangle: ${mesh.triangles} triangles are ${mesh.triangles * 2}, not ` +
          `${mesh.halfBlocks}`,
      })
  }
  return found
}

/**
 * Names that the rulebook words itself and that its own pattern for names refuses. Where no plain word is a name
 * (numbered slots, say), nothing can be told from an example.
 */
function notNameable(rulebook: Rulebook): Contradiction[] {
  const word = cleanName(rulebook, 'elm', 'item')
  if (!isGameName(rulebook, word)) return []
  const { bodies, levels, maps, kinds, points, markers } = rulebook
  const shape = kinds.flatMap(({ solids }) => solids?.shapes ?? []).at(0)
  const worded: { path: (string | number)[]; name: string }[] = [
    ...(shape === undefined ? [] : [{ path: ['solids', 'name'], name: solidName(rulebook, shape, 1) }]),
    ...(kinds.some(({ levelsAsked }) => levelsAsked)
      ? [
          { path: ['levels', 'nameSuffix'], name: word + levelSuffix(rulebook, 1) },
          { path: ['levels', 'shadow', 'nameSuffix'], name: word + levels.shadow.nameSuffix },
        ]
      : []),
    ...(kinds.some(({ attachPoints }) => attachPoints)
      ? [{ path: ['points', 'attach'], name: fillTemplate(points.attach, { point: word }) }]
      : []),
    ...(kinds.some((kind) => kind.markers)
      ? markers.map(({ name }) => ({
          path: ['points', 'marker'],
          name: fillTemplate(points.marker, { marker: name, nn: '01' }),
        }))
      : []),
    ...bodyRoleSchema.options
      .filter((is) => kinds.some(({ faceRoles }) => faceRoles.includes(is)))
      .flatMap((is) => (bodies ? { path: ['bodies', is], name: fillTemplate(bodies[is], { part: word }) } : [])),
    ...maps.roles.map(({ ending }, number) => ({ path: ['maps', 'roles', number, 'ending'], name: word + ending })),
  ]
  return worded
    .filter(({ name }) => !isGameName(rulebook, name))
    .map(({ path, name }) => ({
      path,
      message: `this makes “${name}”, which is no name by names.pattern (${rulebook.names.described})`,
    }))
}
