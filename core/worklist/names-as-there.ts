import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { baseNameOf } from '../game/material-tag.ts'
import type { Rulebook } from '../game/schema.ts'
import { listSceneNodes, listUsedMaterials } from '../item/parts.ts'
import { writtenMaterialName, writtenNodeName } from '../item/written-name.ts'
import { materialInItem, nameInItem } from '../steps/item-names.ts'

/** What things are called now, and how their source called each. */
interface Called {
  now: string
  written: string
}

/**
 * Settings that name parts or materials as one sees them, with the names that those have where a step stands: steps in
 * between may have given them others, as *Clean names* does.
 * @param schema of the step's settings: it says which of them are names
 * @param seen the state that the names are of
 * @param there the state that the step gets
 * @returns the same object where each name is there, or is nobody's
 *
 * @example const parameters = namesAsThere({ parts: ['lid'] }, stepById('weld').parameters, result, before, rulebook)
 */
export function namesAsThere(
  parameters: Record<string, unknown>,
  schema: z.ZodType<unknown>,
  seen: Document,
  there: Document,
  rulebook: Rulebook,
): Record<string, unknown> {
  const nodes = renaming(nodesOf(seen), nodesOf(there))
  const materials = renaming(materialsOf(seen, rulebook), materialsOf(there, rulebook))
  const renamed = withNames(parameters, schema, (kind, name) => (kind === nameInItem ? nodes : materials)(name))
  return renamed as Record<string, unknown>
}

/**
 * Names of parts, materials and whatever else of the item settings hold.
 * @param schema of the step's settings
 *
 * @example namesIn({ parts: ['gate'] }, stepById('weld').parameters)
 */
export function namesIn(parameters: Record<string, unknown>, schema: z.ZodType<unknown>): string[] {
  const names: string[] = []
  withNames(parameters, schema, (_kind, name) => {
    names.push(name)
    return name
  })
  return names
}

const nodesOf = (document: Document): Called[] =>
  listSceneNodes(document).map((node) => ({ now: node.getName(), written: writtenNodeName(node) }))

const materialsOf = (document: Document, rulebook: Rulebook): Called[] =>
  listUsedMaterials(document).map((material) => ({
    now: baseNameOf(material, rulebook),
    written: writtenMaterialName(material),
  }))

function renaming(seen: readonly Called[], there: readonly Called[]): (name: string) => string {
  const known = new Set(there.map(({ now }) => now))
  const written = new Map(seen.map((called) => [called.now, called.written]))
  const nowOf = new Map(there.map((called) => [called.written, called.now]))
  return (name) => (known.has(name) ? name : (nowOf.get(written.get(name) ?? name) ?? name))
}

/** A value with each name in it changed; objects and lists stay the same where nothing in them does. */
function withNames(
  value: unknown,
  schema: z.core.$ZodType | undefined,
  rename: (kind: z.core.$ZodType, name: string) => string,
): unknown {
  if (schema === nameInItem || schema === materialInItem)
    return typeof value === 'string' ? rename(schema, value) : value
  if (schema instanceof z.ZodArray && Array.isArray(value)) {
    const renamed = value.map((each: unknown) => withNames(each, schema.element, rename))
    return renamed.some((each, at) => each !== value[at]) ? renamed : value
  }
  if (schema instanceof z.ZodObject && typeof value === 'object' && value !== null) {
    const shape: Record<string, z.core.$ZodType> = schema.shape
    const fields = Object.entries(value).map(([key, each]) => [key, each, withNames(each, shape[key], rename)] as const)
    return fields.some(([, before, after]) => before !== after)
      ? Object.fromEntries(fields.map(([key, , after]) => [key, after]))
      : value
  }
  if (schema instanceof z.ZodOptional || schema instanceof z.ZodDefault || schema instanceof z.ZodNullable)
    return withNames(value, schema.unwrap(), rename)
  return value
}
