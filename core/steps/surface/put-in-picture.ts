import { isPackedRole, mapRoleSchema } from '../../item/map-roles.ts'
import { roleOfKey } from '../../game/map-roles.ts'
import { mapRoleOptions } from './read-roles.ts'
import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { addLook, FIRST_LOOK, listLooks, materialsInLook } from '../../item/looks.ts'
import { roleFromName, subjectOfName } from '../../item/map-roles.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { materialMap, setMaterialMap } from '../../item/source-maps.ts'
import { cleanName, cleanTextureName, uniqueName, joinedName } from '../../game/clean-name.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { fileNameOf, pictureByName, pictureNames, unusedPictures } from '../../operations/maps/item-pictures.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture, materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import type { SourceImage } from '../../operations/context.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart, type StepSummary } from '../step.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const parameters = z.object({
  picture: z.string().max(400),
  material: materialInItem,
  role: mapRoleSchema,
  /** The look that shows it; a name that is not there yet makes a look. */
  look: z.string().min(1).max(40),
  /** Whether the opacity of the map that stood there stays. */
  keepOpacity: z.boolean(),
})
type Parameters = z.infer<typeof parameters>

/** Puts a picture that was brought, such as a layout painted over, into a role of a material. */
export const putInPicture = defineStep<Parameters>({
  id: 'put-in-picture',
  version: 2,
  stage: 'surface',
  pixelwise: true,
  ofMaps: true,
  title: 'Put in a picture',
  purpose:
    'Puts a picture that was brought, for instance a layout that you painted on, into a map of a material: in ' +
    'the first look, or in a look of its own.',
  parameters,
  fields: ({ document, rulebook, images }) => [
    {
      type: 'choice',
      key: 'picture',
      label: 'Picture',
      options: pictureNames(document, images).map((name) => ({ value: name, label: name })),
    },
    { type: 'choice', key: 'material', label: 'Material', options: materialOptions(document, rulebook) },
    {
      type: 'choice',
      key: 'role',
      label: 'Is its',
      options: mapRoleOptions(rulebook),
    },
    { type: 'text', key: 'look', label: 'In the look' },
    { type: 'toggle', key: 'keepOpacity', label: 'Keep the opacity there was', when: { key: 'role', is: ['colour'] } },
  ],
  defaults: ({ document, rulebook, images }) => guess(document, rulebook, images),
  propose: () => [],
  async run({ document, rulebook, images, parameters: how }) {
    const material = materialByBase(document, rulebook, how.material)
    if (!material) return gonePart(how.material)
    const look = how.look === FIRST_LOOK ? FIRST_LOOK : cleanName(rulebook, how.look, 'look')
    const shown = look === FIRST_LOOK ? material : (materialsInLook(document, look).get(material) ?? material)
    const picture = await pictureByName(how.picture, document, images)
    const before = materialMap(shown, how.role)
    const made =
      how.keepOpacity && how.role === 'colour' && before ? withOpacityOf(picture, await texturePixels(before)) : picture
    return put(document, rulebook, how, { material, shown, look }, made)
  },
})

function put(
  document: Document,
  rulebook: Rulebook,
  { role, picture, material: base }: Parameters,
  at: { material: Material; shown: Material; look: string },
  pixels: Pixels,
): StepSummary {
  const { material, look } = at
  let { shown } = at
  const isNew = look !== FIRST_LOOK && !listLooks(document).includes(look)
  // A look that shows the first look's material gets one of its own, so that the first stays as it is.
  if (look !== FIRST_LOOK && shown === material) shown = material.clone().setName(joinedName(rulebook, base, look))
  const stem = look === FIRST_LOOK ? base : joinedName(rulebook, base, look)
  const ending = roleOfKey(role, rulebook)?.ending ?? `_${role}`
  const taken = new Set(
    document
      .getRoot()
      .listTextures()
      .map((texture) => texture.getName()),
  )
  const name = uniqueName(rulebook, cleanTextureName(rulebook, stem, ending, 'map'), taken, ending)
  setMaterialMap(document, shown, role, addTexture(document, name, role, pixels, `put in from ${picture}`))
  if (isPackedRole(role)) shown.setRoughnessFactor(1).setMetallicFactor(1)
  if (role === 'colour') shown.setBaseColorFactor([1, 1, 1, shown.getBaseColorFactor()[3]])
  if (look !== FIRST_LOOK && shown !== at.shown) addLook(document, look, new Map([[material, shown]]))
  for (const texture of document.getRoot().listTextures())
    if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
  return {
    headline: `${pixels.width} × ${pixels.height}`,
    details: [
      `${picture} is the ${roleOfKey(role, rulebook)?.role ?? role} of ${base} in the look “${look}” ` +
        `now${isNew ? ', which is new' : ''}: ${name}, ${pixels.width} × ${pixels.height} pixels.`,
    ],
    changed: true,
  }
}

function withOpacityOf(picture: Pixels, other: Pixels): Pixels {
  const opacity = resizePixels(other, picture.width, picture.height, 'data')
  const data = picture.data.slice()
  for (let at = 3; at < data.length; at += 4) data[at] = opacity.data[at]
  return { ...picture, data }
}

/** The first picture that nothing shows yet, and the material whose name or maps it is called after. */
function guess(document: Document, rulebook: Rulebook, images: readonly SourceImage[] | undefined): Parameters {
  const picture = unusedPictures(document, images)[0] ?? pictureNames(document, images)[0] ?? ''
  const stem = fileNameOf(picture).replace(/\.[^.]*$/, '')
  const subject = subjectOfName(stem)
  const names = listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))
  const material =
    names.find(
      (name) => subject !== '' && (name.toLowerCase().includes(subject) || subject.includes(name.toLowerCase())),
    ) ??
    names[0] ??
    ''
  const role = roleFromName(stem) ?? 'colour'
  return { picture, material, role, look: FIRST_LOOK, keepOpacity: false }
}
