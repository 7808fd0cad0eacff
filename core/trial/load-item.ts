import { z } from 'zod'
import type { Rulebook } from '../rulebook/schema.ts'
import { checkLevels } from './check-levels.ts'
import { checkLook, type ShownMaterial } from './check-look.ts'
import { checkMesh } from './check-mesh.ts'
import { readSolids, type LoadedSolid } from './check-solids.ts'
import type { TrialLog } from './log.ts'
import { readGlb, type LoadedNode } from './read-glb.ts'
import { fillTemplate, nameIsAccepted, sortNodes, trianglesOf } from './sorted-nodes.ts'

/** An item as the game holds it after loading. */
export interface LoadedItem {
  name: string
  kind: string
  triangles: number
  textures: number
  /** Drawn close by. */
  view: LoadedNode[]
  solids: LoadedSolid[]
  materials: Map<string, ShownMaterial>
}

const entrySchema = z.object({ item: z.string(), kind: z.string(), category: z.string(), mesh: z.string(), looks: z.array(z.string()).min(1) })

/** Loads one entry with its mesh, look and maps; null when there is not enough to go on. */
export function loadItem(entryPath: string, archive: Map<string, Uint8Array>, rulebook: Rulebook, log: TrialLog): LoadedItem | null {
  const entry = readEntry(entryPath, archive, log)
  if (!entry) return null
  const kind = rulebook.kinds.find((each) => each.id === entry.kind)
  if (!kind) {
    log.refuse('entry.kind', entryPath, `There is no kind ${entry.kind}.`)
    return null
  }
  const expected = fillTemplate(rulebook.files.paths.entry, { category: kind.category, item: entry.item })
  if (expected !== entryPath) log.refuse('entry.path', entryPath, `The entry belongs at ${expected}.`)
  if (!nameIsAccepted(entry.item, rulebook)) log.refuse('name.form', entryPath, `The item name “${entry.item}” is not accepted.`)
  const meshBytes = archive.get(entry.mesh)
  if (!meshBytes) {
    log.refuse('entry.mesh', entryPath, `The mesh ${entry.mesh} is not in the pack.`)
    return null
  }
  let nodes: LoadedNode[]
  try {
    const glb = readGlb(meshBytes)
    nodes = glb.nodes
    if (glb.images > 0 && rulebook.files.mesh.images === 'none') log.refuse('mesh.images', entry.mesh, 'The mesh file carries images.')
  } catch (error) {
    log.refuse('mesh.unreadable', entry.mesh, `The mesh cannot be read: ${error instanceof Error ? error.message.slice(0, 200) : String(error)}.`)
    return null
  }
  const sorted = sortNodes(nodes, rulebook)
  checkMesh(entry.mesh, nodes, sorted, rulebook, kind, log)
  checkLevels(entry.mesh, sorted, rulebook, kind, log)
  const solids = readSolids(entry.mesh, sorted, rulebook, kind, log)
  const materials = new Map<string, ShownMaterial>()
  let textures = 0
  for (const look of entry.looks) textures += checkLook(look, sorted, materials, archive, rulebook, kind, log)
  return { name: entry.item, kind: kind.id, triangles: trianglesOf(sorted.view), textures, view: sorted.view, solids, materials }
}

function readEntry(path: string, archive: Map<string, Uint8Array>, log: TrialLog): z.infer<typeof entrySchema> | null {
  try {
    return entrySchema.parse(JSON.parse(new TextDecoder().decode(archive.get(path))))
  } catch {
    log.refuse('entry.unreadable', path, 'The entry cannot be read.')
    return null
  }
}
