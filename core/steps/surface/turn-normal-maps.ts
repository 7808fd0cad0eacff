import { normalRole } from '../../game/map-roles.ts'
import type { Document, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { listShownMaterials } from '../../item/looks.ts'
import type { Rulebook } from '../../game/schema.ts'
import { findNormalDirection, flipGreen, LEAST_CERTAINTY } from '../../pictures/normal-direction.ts'
import { putPixels } from '../../operations/maps/map-pixels.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const parameters = z.object({ how: z.enum(['find', 'turn', 'leave']) })

const wantedDirection = (rulebook: Rulebook): 'up' | 'down' | null => normalRole(rulebook)?.normalY ?? null

const normalMaps = (document: Document): Texture[] => [
  ...new Set(listShownMaterials(document).flatMap((material) => material.getNormalTexture() ?? [])),
]

/** Turns green of normal maps to the direction the game reads. */
export const turnNormalMaps = defineStep<z.infer<typeof parameters>>({
  id: 'turn-normal-maps',
  version: 1,
  stage: 'surface',
  pixelwise: true,
  ofMaps: true,
  title: 'Turn normal maps',
  purpose:
    'Finds which way green points in each normal map, by whether its slopes fit together, and turns those that ' +
    'are the other way than the game’s.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'how',
      label: 'Green',
      options: [
        { value: 'find', label: 'Find out, turn where needed' },
        { value: 'turn', label: 'Turn all' },
        { value: 'leave', label: 'Leave' },
      ],
    },
  ],
  defaults: () => ({ how: 'find' }),
  propose({ document, rulebook }) {
    const maps = normalMaps(document)
    const wanted = wantedDirection(rulebook)
    if (maps.length === 0 || wanted === null) return []
    return [
      {
        parameters: { how: 'find' },
        reason:
          `${plural(maps.length, 'normal map')}; the game reads green as ${wanted}, and files do not say which ` +
          'way it points.',
      },
    ]
  },
  async run({ document, rulebook, parameters: { how }, progress }) {
    const wanted = wantedDirection(rulebook)
    const maps = normalMaps(document)
    const details: string[] = []
    let turned = 0
    for (const [number, texture] of maps.entries()) {
      await progress(number / maps.length, texture.getName())
      const pixels = await texturePixels(texture)
      const found = findNormalDirection(pixels)
      const sure = found.certainty >= LEAST_CERTAINTY
      const said = sure
        ? `green points ${found.y} (${Math.round(found.certainty * 100)} % of its slopes agree)`
        : 'its slopes do not say which way green points'
      const turn = how === 'turn' || (how === 'find' && sure && wanted !== null && found.y !== wanted)
      if (turn) {
        putPixels(texture, flipGreen(pixels))
        turned++
      }
      details.push(`${texture.getName()}: ${said}${turn ? '; turned' : ''}.`)
    }
    return {
      headline: turned > 0 ? `${turned} turned` : 'fits',
      details: details.length > 0 ? details : ['There is no normal map.'],
      changed: turned > 0,
    }
  },
})
