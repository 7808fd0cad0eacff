import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras, setMaterialExtras, type TextureReference } from '../../item/extras.ts'
import { noteGivenUp } from '../../item/given-up.ts'
import { listShownMaterials } from '../../item/looks.ts'
import { rolesOf } from '../../item/material-meaning.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({})

/** Lets materials do without the pictures that did not come along, so that the item loads until they are pointed to. */
export const standInColours = defineStep<z.infer<typeof parameters>>({
  id: 'stand-in-colours',
  version: 1,
  stage: 'surface',
  title: 'Stand in for missing pictures',
  purpose:
    'Where a picture did not come along, the material’s own plain colour stands in for it. Once the picture is ' +
    'pointed to, it takes its place again.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document }) {
    const missing = listMissing(document)
    if (missing.length === 0) return []
    const paths = [...new Set(missing.flatMap(({ references }) => references.map(({ path }) => path)))]
    const named = paths.slice(0, 2).map((path) => `“${path}”`)
    return [
      {
        parameters: {},
        reason:
          `${plural(paths.length, 'picture')} did not come along ` +
          `(${named.join(', ')}${paths.length > named.length ? '…' : ''}); the loader stops at a file that is not ` +
          'there.',
      },
    ]
  },
  async run({ document }) {
    const missing = listMissing(document)
    for (const { material, references } of missing) {
      const extras = getMaterialExtras(material)
      setMaterialExtras(material, {
        ...extras,
        references: extras.references.filter((each) => !isMissing(each)),
      })
      if (!rolesOf(material).includes('colour') && material.getBaseColorFactor()[3] >= 1)
        // What was to be cut or blended by the picture has nothing to be cut or blended by.
        material.setAlphaMode('OPAQUE')
      noteGivenUp(
        document,
        ...references.map(({ path, role }) => ({
          what: 'A picture is missing',
          where: material.getName(),
          message:
            `${material.getName()} asks for “${path}”, which did not come along: ` +
            `${role === 'colour' ? 'its own plain colour stands in' : `it goes without its ${role}`}`,
          why: 'Point to the picture at Intake and it takes its place.',
        })),
      )
    }
    return {
      headline: missing.length === 0 ? 'none' : plural(missing.length, 'material'),
      details: missing.map(
        ({ material, references }) =>
          `${material.getName()} goes without ${references.map(({ path }) => `“${path}”`).join(', ')} until the ` +
          'picture is pointed to.',
      ),
      changed: missing.length > 0,
    }
  },
})

const isMissing = ({ found, stock, problem }: TextureReference): boolean =>
  found === null && stock === undefined && problem === undefined

const listMissing = (document: Document): { material: Material; references: TextureReference[] }[] =>
  listShownMaterials(document).flatMap((material) => {
    const references = getMaterialExtras(material).references.filter(isMissing)
    return references.length === 0 ? [] : [{ material, references }]
  })
