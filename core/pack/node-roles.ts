import type { Document, Node } from '@gltf-transform/core'
import { setNodeExtras, solidShapes } from '../item/extras.ts'
import { listSceneNodes } from '../item/parts.ts'
import type { Rulebook } from '../game/schema.ts'
import { templatePattern } from '../game/templates.ts'

/** Tells what each node of a packed mesh is for, as the game does: by its name and by what it hangs under. */
export function recogniseRoles(document: Document, rulebook: Rulebook): void {
  const solidName = templatePattern(rulebook.solids.name, { shape: `(${solidShapes.join('|')})`, nn: '\\d\\d+' })
  const levelName = templatePattern(`{part}${rulebook.levels.nameSuffix}`, { part: '.+', level: '([1-9])' })
  for (const node of listSceneNodes(document)) {
    if (!node.getMesh()) continue
    const name = node.getName()
    const shape = solidShapes.find((each) => each === solidName.exec(name)?.[1])
    const level = levelName.exec(name)?.[1]
    if (shape) {
      const facts = solidFacts(node.getExtras())
      setNodeExtras(node.setExtras({}), { role: 'solid', solid: { shape, ...facts } })
    } else if (level !== undefined && hangsUnderItsPart(node))
      setNodeExtras(node, { role: 'level', level: Number(level) })
    else if (name.endsWith(rulebook.levels.shadow.nameSuffix) && hangsUnderItsPart(node))
      setNodeExtras(node, { role: 'shadow' })
  }
}

/** What a solid says of itself; anything of another type counts as not said. */
function solidFacts({ surface, layers, mass }: Record<string, unknown>): {
  surface: string | null
  layers: string[]
  massKilograms: number | null
} {
  return {
    surface: typeof surface === 'string' ? surface.slice(0, 64) : null,
    layers: Array.isArray(layers)
      ? layers
          .filter((layer) => typeof layer === 'string')
          .slice(0, 1000)
          .map((layer) => layer.slice(0, 64))
      : [],
    massKilograms: typeof mass === 'number' ? mass : null,
  }
}

function hangsUnderItsPart(node: Node): boolean {
  const parent = node.getParentNode()
  return parent !== null && parent.getMesh() !== null && node.getName().startsWith(parent.getName())
}
