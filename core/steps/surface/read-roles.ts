import type { Document, Material, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { getTextureExtras, setTextureExtras } from '../../item/extras.ts'
import { listShownMaterials } from '../../item/looks.ts'
import { ingredientRoles, mapRoleSchema, paintedRoles, roleFromName, type SourceRole } from '../../item/map-roles.ts'
import type { MapRole } from '../../item/material-meaning.ts'
import { keyOf, packedRoles } from '../../game/map-roles.ts'
import type { Rulebook } from '../../game/schema.ts'
import { listMaterialMaps, setMaterialMap } from '../../item/source-maps.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const roleSchema = z.union([mapRoleSchema, z.literal('none')])
const assignmentSchema = z.object({ texture: nameInItem, role: roleSchema })
const parameters = z.object({ roles: z.array(assignmentSchema).max(20_000) })
type Assignment = z.infer<typeof assignmentSchema>

/** Says what each picture is for. */
export const readRoles = defineStep<z.infer<typeof parameters>>({
  id: 'read-roles',
  version: 1,
  stage: 'surface',
  pixelwise: true,
  title: 'Read roles',
  purpose:
    'Says what each picture is for, where the file leaves it open from its name; colour is taken as sRGB, all ' +
    'else as data.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'map-roles',
      key: 'roles',
      label: 'Pictures',
      options: [...mapRoleOptions(rulebook), { value: 'none', label: 'Not used' }],
      names: [...new Set(placedMaps(document).map(({ texture }) => texture.getName()))],
    },
  ],
  defaults: ({ document }) => ({ roles: assignmentsOf(document) }),
  propose({ document }) {
    const unlike = placedMaps(document).filter(({ role, texture }) => likelyRole(role, texture.getName()) !== role)
    if (unlike.length === 0) return []
    const roles = assignmentsOf(document)
    const said = unlike
      .slice(0, 4)
      .map(({ texture, role }) => `${texture.getName()} is ${likelyRole(role, texture.getName())}`)
      .join(', ')
    return [
      {
        parameters: { roles },
        reason:
          `${plural(unlike.length, 'picture')} by name, since the file does not say: ` +
          `${said}${unlike.length > 4 ? '…' : '.'}`,
      },
    ]
  },
  async run({ document, parameters: { roles } }) {
    const details: string[] = []
    let changed = 0
    for (const { texture: name, role } of roles) {
      const places = placedMaps(document).filter(({ texture }) => texture.getName() === name)
      if (places.length === 0) details.push(`There is no picture “${name}” at this place.`)
      else if (places.every((place) => place.role === role)) details.push(`${name} is ${role}.`)
      else {
        move(document, places, role)
        details.push(
          role === 'none' ? `${name} is not used.` : `${name} is ${role} now; it stood as ${places[0].role}.`,
        )
        changed++
      }
    }
    return {
      headline: `${roles.filter(({ role }) => role !== 'none').length} of ${roles.length}`,
      details,
      changed: changed > 0,
    }
  },
})

/** What roles of a source's pictures are called. */
const sourceRoleTitles: Record<SourceRole, string> = {
  colour: 'Colour',
  normal: 'Normal',
  'metal-rough': 'Roughness in green, metalness in blue',
  orm: 'Occlusion, roughness, metalness in red, green, blue',
  occlusion: 'Occlusion',
  roughness: 'Roughness',
  gloss: 'Gloss (roughness turned round)',
  metalness: 'Metalness',
  glow: 'Glow',
  height: 'Height',
  opacity: 'Opacity',
  specular: 'Specular',
}

/**
 * Every role that a picture can have: those of a source, and those that the game packs in its own way.
 * @example const options = mapRoleOptions(rulebook)
 */
export const mapRoleOptions = (rulebook: Rulebook): { value: MapRole; label: string }[] => [
  ...paintedRoles.map((value) => ({ value, label: sourceRoleTitles[value] })),
  ...packedRoles(rulebook).map((role) => ({
    value: keyOf(role, rulebook),
    label: `${role.title}, as the game has it`,
  })),
  ...ingredientRoles.map((value) => ({ value, label: sourceRoleTitles[value] })),
]

interface Place {
  material: Material
  role: MapRole
  texture: Texture
}

const placedMaps = (document: Document): Place[] =>
  listShownMaterials(document).flatMap((material) =>
    listMaterialMaps(material).map(({ role, texture }) => ({ material, role, texture })),
  )

/**
 * What the slot of a file says of a picture is the truth. Only a slot for relief leaves open whether its picture holds
 * heights or normals; there, and nowhere else, the picture's name decides.
 */
function likelyRole(role: Place['role'], name: string): Place['role'] {
  if (role !== 'normal' && role !== 'height') return role
  const named = roleFromName(name)
  return named === 'normal' || named === 'height' ? named : role
}

function assignmentsOf(document: Document): Assignment[] {
  const byName = new Map<string, Assignment>()
  for (const { role, texture } of placedMaps(document)) {
    const name = texture.getName()
    if (!byName.has(name)) byName.set(name, { texture: name, role: likelyRole(role, name) })
  }
  return [...byName.values()]
}

function move(document: Document, places: readonly Place[], role: Assignment['role']): void {
  for (const { material, role: before, texture } of places) {
    setMaterialMap(document, material, before, null)
    if (role === 'none') continue
    setMaterialMap(document, material, role, texture)
    setTextureExtras(texture, { ...getTextureExtras(texture), role })
  }
}
