import type { Material, Node } from '@gltf-transform/core'
import { getMaterialExtras, getNodeExtras, setMaterialExtras, setNodeExtras } from './extras.ts'

/**
 * Names a node for the game, and keeps beside it how its source called it.
 * @example renameNode(node, cleanName(rulebook, node.getName(), 'part'))
 */
export function renameNode(node: Node, name: string): void {
  const extras = getNodeExtras(node)
  if (extras.writtenName === undefined) setNodeExtras(node, { ...extras, writtenName: node.getName() })
  node.setName(name)
}

/**
 * The same for a material, before it is given another name.
 * @example keepMaterialName(material)
 */
export function keepMaterialName(material: Material): void {
  const extras = getMaterialExtras(material)
  if (extras.writtenName === undefined) setMaterialExtras(material, { ...extras, writtenName: material.getName() })
}

/**
 * How the source called a node; its name where nobody has changed it.
 * @example const asInTheSource = writtenNodeName(part.node)
 */
export const writtenNodeName = (node: Node): string => getNodeExtras(node).writtenName ?? node.getName()

/**
 * How the source called a material; its name where nobody has changed it.
 * @example const asInTheSource = writtenMaterialName(material)
 */
export const writtenMaterialName = (material: Material): string =>
  getMaterialExtras(material).writtenName ?? material.getName()
