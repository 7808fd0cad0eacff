import { roleOfKey } from '../../game/map-roles.ts'
import { materialTag, setMaterialTag, type MaterialTag } from '../../game/material-tag.ts'
import type { Document, Node, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { bodyInName, bodyName } from '../../game/body-names.ts'
import { groupName } from '../../game/group-names.ts'
import { annotationKind } from '../../item/annotations/index.ts'
import { getNodeExtras, getTextureExtras } from '../../item/extras.ts'
import { listSceneNodes } from '../../item/parts.ts'
import { keepMaterialName, renameNode } from '../../item/written-name.ts'
import { cleanName, cleanTextureName, uniqueName } from '../../game/clean-name.ts'
import { isGameName } from '../../game/names.ts'
import type { Rulebook } from '../../game/schema.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({})

interface Renaming {
  from: string
  to: string
  apply: () => void
}

/** Gives parts, materials, textures and clips names that the game accepts. */
export const cleanNames = defineStep<z.infer<typeof parameters>>({
  id: 'clean-names',
  version: 4,
  stage: 'surface',
  title: 'Clean names',
  purpose: 'Gives every part, material and texture a name the game accepts, with the right ending.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, rulebook }) {
    const renamings = planRenamings(document, rulebook)
    if (renamings.length === 0) return []
    const [first] = renamings
    return [
      {
        parameters: {},
        reason:
          `${plural(renamings.length, 'name')} the game does not read, such as “${first.from}”; it takes ` +
          `${rulebook.names.described}, up to ${rulebook.names.longest}.`,
      },
    ]
  },
  async run({ document, rulebook }) {
    const renamings = planRenamings(document, rulebook)
    for (const renaming of renamings) renaming.apply()
    return {
      headline: `${plural(renamings.length, 'name')}`,
      details: renamings.length === 0 ? ['All names were good.'] : renamings.map(({ from, to }) => `${from} → ${to}`),
      changed: renamings.length > 0,
    }
  },
})

function planRenamings(document: Document, rulebook: Rulebook): Renaming[] {
  const renamings: Renaming[] = []
  const plan = (from: string, to: string, apply: () => void): void => {
    if (from !== to) renamings.push({ from: from || '(no name)', to, apply })
  }
  planNodes(document, rulebook, plan)
  const root = document.getRoot()
  const takenMaterials = new Set<string>()
  for (const material of root.listMaterials()) {
    const tag = materialTag(material, rulebook)
    const base = uniqueName(rulebook, cleanName(rulebook, tag.base, 'material'), takenMaterials)
    takenMaterials.add(base)
    plan(tag.base, base, () => renameMaterial(document, material, { ...tag, base }, rulebook))
  }
  const takenTextures = new Set<string>()
  for (const texture of root.listTextures()) {
    const role = roleOfKey(getTextureExtras(texture).role, rulebook)
    const cleaned = role
      ? cleanTextureName(rulebook, texture.getName(), role.ending, 'map')
      : cleanName(rulebook, texture.getName(), 'map')
    const name = uniqueName(rulebook, cleaned, takenTextures, role?.ending)
    takenTextures.add(name)
    plan(texture.getName(), name, () => texture.setName(name))
  }
  for (const animation of root.listAnimations()) {
    const name = cleanName(rulebook, animation.getName(), 'clip')
    plan(animation.getName(), name, () => animation.setName(name))
  }
  return renamings
}

function planNodes(
  document: Document,
  rulebook: Rulebook,
  plan: (from: string, to: string, apply: () => void) => void,
): void {
  const taken = new Set<string>()
  const nodes = listSceneNodes(document)
  const newNames = new Map<Node, string>()
  const named = new Map<string, number>()
  const rename = (node: Node, name: string): void => {
    newNames.set(node, name)
    taken.add(name)
    const mesh = node.getMesh()
    const meshDiffers =
      mesh !== null &&
      mesh.listParents().filter((parent) => parent.propertyType === 'Node').length === 1 &&
      mesh.getName() !== name
    if (node.getName() !== name) plan(node.getName(), name, () => renameNode(node, name))
    if (meshDiffers && isGameName(rulebook, mesh.getName()) === false)
      plan(mesh.getName(), name, () => mesh.setName(name))
  }
  for (const node of nodes) {
    if (getNodeExtras(node).role !== 'part') continue
    const room = withRoomFor(endingOfMade(node, rulebook), rulebook)
    const { group } = getNodeExtras(node)
    const body = bodyInName(rulebook, node.getName())
    const name = group ? groupName(room, group, node.getName()) : cleanName(room, node.getName(), 'part')
    // What a body does is said at the beginning or the end of its name: a number has to leave it there.
    rename(node, body === 'solid' ? uniqueName(room, name, taken) : bodyName(room, body, node.getName(), taken))
  }
  for (const node of nodes) {
    const extras = getNodeExtras(node)
    const kind = annotationKind(extras.role)
    if (!kind) continue
    const parent = node.getParentNode()
    const ownName = cleanName(rulebook, node.getName(), kind.is === 'shape' ? 'part' : 'point')
    // Markers of one name are numbered by themselves.
    const series = kind.role + (extras.marker ?? '')
    const before = named.get(series) ?? 0
    const name = kind.packedName(rulebook, extras, {
      parentName: (parent && newNames.get(parent)) ?? ownName,
      ownName,
      before,
    })
    rename(node, kind.is === 'place' ? uniqueName(rulebook, name, taken) : name)
    named.set(series, before + 1)
  }
}

/** The longest ending that what was made of a part puts on its name: of its levels, of its shadow mesh. */
function endingOfMade(node: Node, rulebook: Rulebook): number {
  const parentName = 'part'
  return node.listChildren().reduce((longest, child) => {
    const extras = getNodeExtras(child)
    const name = annotationKind(extras.role)?.packedName(rulebook, extras, { parentName, ownName: '', before: 0 }) ?? ''
    return name.startsWith(parentName) ? Math.max(longest, name.length - parentName.length) : longest
  }, 0)
}

const withRoomFor = (ending: number, rulebook: Rulebook): Rulebook => ({
  ...rulebook,
  names: { ...rulebook.names, longest: Math.max(1, rulebook.names.longest - ending) },
})

/** What a source wrote into the name goes on saying what the material is made of. */
function renameMaterial(document: Document, material: Material, tag: MaterialTag, rulebook: Rulebook): void {
  keepMaterialName(material)
  if (tag.surface === null) material.setName(tag.base)
  else setMaterialTag(document, material, tag, rulebook)
}
