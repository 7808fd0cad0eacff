import { standUpright } from './working-space.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { checkBodies } from './check-bodies.ts'
import { checkClips } from './check-clips.ts'
import { checkFacing, type Turns } from './check-facing.ts'
import { checkGroups, withoutBackdrops } from './check-groups.ts'
import { checkHalfBlocks } from './check-half-blocks.ts'
import { checkFineEdges, isLevelGeometry, surfacesAsSolids } from './level-geometry.ts'
import { checkLevels } from './check-levels.ts'
import { checkLook, checkMemory, flagsInLook, lookName, type ShownMaterial } from './check-look.ts'
import { checkAttachPoints } from './check-attach-points.ts'
import { checkMarkers, markersOf, type LoadedMarker } from './check-markers.ts'
import { checkMesh } from './check-mesh.ts'
import { checkPassage } from './check-passage.ts'
import { readSolids, type LoadedSolid } from './check-solids.ts'
import type { TrialLog } from './log.ts'
import { meshLoaders } from './loaders/mesh/index.ts'
import type { LoadedMesh, LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { checkEvents } from './entry/check-events.ts'
import { checkLike } from './entry/check-like.ts'
import { checkLines } from './entry/check-lines.ts'
import type { LoadedEntry } from './entry/read-entry.ts'
import { bodyWord, fillTemplate, nameIsAccepted, sortNodes, trianglesOf } from './sorted-nodes.ts'

/** An item as the game holds it after loading. */
export interface LoadedItem {
  name: string
  kind: string
  triangles: number
  textures: number
  /** Drawn close by. */
  view: LoadedNode[]
  solids: LoadedSolid[]
  /** What it lights with. */
  lights: LoadedNode[]
  /** How it moves, in the yard’s space. */
  clips: LoadedMesh['clips']
  markers: LoadedMarker[]
  /** Where other things join. */
  points: LoadedNode[]
  /** How it turns to who looks; null for what stands as it is. */
  turns: Turns | null
  materials: Map<string, ShownMaterial>
  /** What its catalogue says of it. */
  entry: LoadedEntry
  entryPath: string
  /** Names of its parts and groups. */
  things: ReadonlySet<string>
  /** Everything that was loaded of it. */
  nodes: LoadedNode[]
}

/**
 * Loads one entry with its mesh, look and maps; null when there is not enough to go on.
 * @param items every item of the pack with its kind
 *
 * @example const item = loadItem(path, entry, items, archive, rulebook, log)
 */
export function loadItem(
  entryPath: string,
  entry: LoadedEntry,
  items: ReadonlyMap<string, string>,
  archive: Map<string, Uint8Array>,
  rulebook: Rulebook,
  log: TrialLog,
): LoadedItem | null {
  const kind = rulebook.kinds.find((each) => each.id === entry.kind)
  if (!kind) {
    log.refuse('entry.kind', entryPath, `There is no kind ${entry.kind}.`)
    return null
  }
  const expected = fillTemplate(rulebook.files.paths.entry, {
    category: kind.category,
    item: entry.item,
    slot: entry.slot ?? '-',
    SLOT: entry.slot?.toUpperCase() ?? '-',
  })
  if (expected !== entryPath) log.refuse('entry.path', entryPath, `The entry belongs at ${expected}.`)
  if (entry.category !== kind.category)
    log.refuse('entry.category', entryPath, `A ${kind.id} is of the category ${kind.category}, not ${entry.category}.`)
  if (kind.addsTo === 'host' && !rulebook.stock.objects.some(({ id, role }) => role === 'host' && id === entry.changes))
    log.refuse('entry.changes', entryPath, `There is no object ${entry.changes ?? ''} to change.`)
  checkSlot(entryPath, entry, rulebook, log)
  if (!nameIsAccepted(entry.item, rulebook))
    log.refuse('name.form', entryPath, `The item name “${entry.item}” is not accepted.`)
  const loaded = loadMeshes(entryPath, entry, kind, archive, rulebook, log)
  if (!loaded) return null
  const { nodes, clips } = loaded
  const sorted = sortNodes(nodes, rulebook)
  const file = entry.mesh ?? Object.values(entry.models ?? {})[0] ?? entryPath
  const points: LoadedNode[] = []
  if (kind.mesh) {
    checkMesh(file, nodes, sorted, rulebook, kind, flagsInLook(entry.looks[0], archive, rulebook), log)
    checkLevels(file, sorted, rulebook, kind, log)
    checkClips(file, clips, rulebook, kind, log)
    checkGroups(file, loaded, sorted, rulebook, kind, log)
    checkMarkers(file, loaded, sorted.view, rulebook, kind, log)
    points.push(...checkAttachPoints(file, loaded.nodes, sorted.view, rulebook, kind, log))
    checkHalfBlocks(file, sorted.view, rulebook, kind, log)
  }
  checkBodies(file, sorted.view, rulebook, kind, log)
  checkFineEdges(
    file,
    sorted.view.filter(({ name }) => bodyWord(name, rulebook, kind) !== 'trim'),
    kind,
    log,
  )
  const turns = checkFacing(
    file,
    entry.turns,
    sorted.view,
    rulebook,
    kind,
    flagsInLook(entry.looks[0], archive, rulebook),
    log,
  )
  const solids = kind.mesh
    ? readSolids(file, { ...sorted, solids: withoutBackdrops(sorted.solids, rulebook, kind) }, rulebook, kind, log)
    : []
  if (kind.mesh) checkPassage(file, sorted, solids, rulebook, kind, log)
  const materials = new Map<string, ShownMaterial>()
  const maps = new Map<string, Uint8Array>()
  for (const look of entry.looks) checkLook(look, sorted, materials, maps, archive, rulebook, kind, log)
  checkMemory(entry.looks[0], maps, rulebook, kind, log)
  const markers = markersOf(nodes, rulebook, kind)
  const groups = groupsOver(sorted.view, entry.item)
  const things = new Set([...sorted.view.map(({ name }) => name), ...groups])
  const own = {
    part: new Set(sorted.view.map(({ name }) => name)),
    group: groups,
    point: new Set(points.map(({ name }) => name)),
    marker: new Set(markers.map(({ node }) => node.name)),
    clip: new Set(clips.map(({ name }) => name)),
    light: new Set(nodes.filter(({ light }) => light !== null).map(({ name }) => name)),
    look: new Set(entry.looks.flatMap((look) => lookName(look, archive, rulebook) ?? [])),
  }
  checkLines(entryPath, entry, { own, items }, kind, rulebook, log)
  checkLike(entryPath, entry.like, { view: sorted.view, solids, materials }, kind, rulebook, log)
  checkEvents(entryPath, entry.item, entry.events, { nodes, clips, solids, things, markers }, items, rulebook, log)
  // What is cut out or only seen stops nobody.
  const standing = sorted.view.filter(({ name }) => bodyWord(name, rulebook, kind) === 'solid')
  return {
    name: entry.item,
    kind: kind.id,
    triangles: trianglesOf(sorted.view),
    textures: maps.size,
    view: sorted.view,
    // Where a game is built of blocks, or of bodies that one walks on, they are what one bumps into.
    solids:
      rulebook.halfBlocks || isLevelGeometry(kind)
        ? surfacesAsSolids(standing, (name) => materials.get(name)?.surface ?? '', rulebook)
        : solids,
    // The game lights as many as the kind may have.
    lights: nodes.filter(({ light }) => light !== null).slice(0, kind.mostLights),
    clips,
    markers,
    points,
    turns,
    materials,
    entry,
    entryPath,
    things,
    nodes,
  }
}

/** Names of what drawn things hang under, the item itself not among them. */
function groupsOver(view: readonly LoadedNode[], itemName: string): Set<string> {
  const names = new Set<string>()
  for (const node of view)
    for (let at = node.parent; at; at = at.parent)
      if (at.parent !== null || at.primitives.length > 0 || at.name !== itemName) names.add(at.name)
  return names
}

/** In a game with numbered places a thing stands in for one of them, of its own kind. */
function checkSlot(path: string, { slot, kind, mesh }: LoadedEntry, { slots, files }: Rulebook, log: TrialLog): void {
  if (!slots) return
  const listed = slots.listed.find((each) => each.slot === slot)
  if (!listed) {
    log.refuse('slot.unknown', path, slot === undefined ? 'It has no slot.' : `There is no slot ${slot}.`)
    return
  }
  if (!listed.kinds.includes(kind))
    log.refuse('slot.kind', path, `No ${kind} stands at ${slot}: it is ${listed.title}.`)
  const words = [...files.paths.mesh.matchAll(/\{(SLOT|slot)\}/g)].map(([, word]) => word)
  for (const word of words) {
    const spelt = word === 'SLOT' ? listed.slot.toUpperCase() : listed.slot
    if (mesh !== undefined && !mesh.includes(spelt))
      log.refuse('slot.spelling', mesh, `The mesh of ${slot} has to have ${spelt} in its name.`)
  }
}

/** The nodes of every mesh file that the kind asks for; null when one of them cannot be had. */
function loadMeshes(
  entryPath: string,
  entry: LoadedEntry,
  kind: Kind,
  archive: Map<string, Uint8Array>,
  rulebook: Rulebook,
  log: TrialLog,
): Pick<LoadedMesh, 'nodes' | 'clips'> | null {
  if (!kind.mesh) {
    if (entry.mesh !== undefined || entry.models !== undefined)
      log.refuse('entry.mesh', entryPath, `A ${kind.id} has no mesh.`)
    return { nodes: [], clips: [] }
  }
  const wanted = kind.models.length > 1 ? kind.models.map((model) => entry.models?.[model]) : [entry.mesh]
  const nodes: LoadedNode[] = []
  const clips: LoadedMesh['clips'] = []
  for (const [number, path] of wanted.entries()) {
    const bytes = path === undefined ? undefined : archive.get(path)
    if (path === undefined || !bytes) {
      log.refuse(
        'entry.mesh',
        entryPath,
        `The mesh ${path ?? (kind.models.length > 1 ? kind.models[number] : 'of the item')} is not in the pack.`,
      )
      return null
    }
    try {
      const beside = kind.models.length > 1 ? entry.ofModels?.[kind.models[number]] : entry
      const mesh = meshLoaders[rulebook.files.mesh.writer]({ path, bytes, archive, beside, rulebook })
      standUpright(mesh, rulebook)
      log.tell('mesh.read', path, `${mesh.nodes.length} nodes, ${mesh.clips.length} clips.`)
      nodes.push(...mesh.nodes)
      clips.push(...mesh.clips)
      if (mesh.clips.length > 0 && !kind.motionAsked)
        log.complain('mesh.motion', path, `The mesh carries ${mesh.clips.length} clips; a ${kind.id} does not move.`)
      if (mesh.images > 0 && rulebook.files.mesh.images === 'none')
        log.refuse('mesh.images', path, 'The mesh file carries images.')
    } catch (error) {
      log.refuse(
        'mesh.unreadable',
        path,
        `The mesh cannot be read: ${error instanceof Error ? error.message.slice(0, 200) : String(error)}.`,
      )
      return null
    }
  }
  return { nodes, clips }
}
