import { z } from 'zod'
import { descendants, listSceneNodes } from '../../item/parts.ts'
import { findStrays, type Stray } from '../../item/strays.ts'
import { dropUnused } from '../../operations/meshes/drop-unused.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { formatChange, plural } from '../../support/wording.ts'

const parameters = z.object({
  cameras: z.boolean(),
  lamps: z.boolean(),
  empties: z.boolean(),
  groundShade: z.boolean(),
  endBones: z.boolean().default(true),
  doubles: z.boolean().default(true),
  /** Parts far from the rest may be meant: they are left unless asked for. */
  farParts: z.boolean().default(false),
  /** Names of further parts to leave out. */
  parts: namesInItem,
})
type Parameters = z.infer<typeof parameters>

const toggleOf: Record<Stray['what'], keyof Omit<Parameters, 'parts'>> = {
  camera: 'cameras',
  lamp: 'lamps',
  empty: 'empties',
  'ground shade': 'groundShade',
  'end bone': 'endBones',
  double: 'doubles',
  'far part': 'farParts',
}

/** Takes out what came along with the model and is not part of it. */
export const dropStrays = defineStep<Parameters>({
  id: 'drop-strays',
  version: 1,
  stage: 'intake',
  title: 'Drop strays',
  purpose: 'Leaves out cameras, lamps, empties and ground shades that came along.',
  parameters,
  fields: () => [
    { type: 'toggle', key: 'cameras', label: 'Cameras' },
    { type: 'toggle', key: 'lamps', label: 'Lamps' },
    { type: 'toggle', key: 'empties', label: 'Empties' },
    { type: 'toggle', key: 'groundShade', label: 'Ground shades' },
    { type: 'toggle', key: 'endBones', label: 'End bones' },
    { type: 'toggle', key: 'doubles', label: 'Parts that stand twice' },
    { type: 'toggle', key: 'farParts', label: 'Parts far from the rest' },
    { type: 'parts', key: 'parts', label: 'Also leave out' },
  ],
  defaults: ({ kind }) => ({
    cameras: true,
    lamps: kind.mostLights === 0,
    empties: !kind.attachPoints && !kind.markers,
    groundShade: true,
    endBones: true,
    doubles: true,
    farParts: false,
    parts: [],
  }),
  propose(context) {
    const chosen = this.defaults(context) as Parameters
    const strays = findStrays(context.document).filter((stray) => chosen[toggleOf[stray.what]])
    if (strays.length === 0) return []
    return [
      {
        parameters: chosen,
        reason: `${listStrays(strays)} came along and ${strays.length === 1 ? 'is' : 'are'} not part of the model.`,
      },
    ]
  },
  async run({ document, parameters: chosen }) {
    const strays = findStrays(document).filter((stray) => chosen[toggleOf[stray.what]])
    const extra = listSceneNodes(document).filter((node) => node.getMesh() && chosen.parts.includes(node.getName()))
    const details = strays
      .map((stray) => `${stray.name} (${stray.what}) was left out.`)
      .concat(extra.map((node) => `${node.getName()} was left out.`))
    const gone = [...strays.map((stray) => stray.node), ...extra]
    for (const node of gone) {
      const keepsChildren = descendants(node).some((child) => child.getMesh() && !gone.includes(child))
      if (keepsChildren) node.setMesh(null).setCamera(null).setExtension('KHR_lights_punctual', null)
      else {
        for (const child of descendants(node)) child.dispose()
        node.dispose()
      }
    }
    dropUnused(document)
    const missing = chosen.parts.filter((name) => !extra.some((node) => node.getName() === name))
    if (missing.length > 0)
      details.push(
        `${missing.slice(0, 4).join(', ')}: no such ${missing.length === 1 ? 'part' : 'parts'} in the source any more.`,
      )
    return {
      headline: formatChange(-gone.length),
      details: details.length > 0 ? details : ['There was nothing to leave out.'],
      changed: gone.length > 0,
    }
  },
})

function listStrays(strays: readonly Stray[]): string {
  const names = strays.slice(0, 4).map((stray) => `${stray.name} (${stray.what})`)
  return strays.length > 4 ? `${names.join(', ')} and ${plural(strays.length - 4, 'more', 'more')}` : names.join(', ')
}
