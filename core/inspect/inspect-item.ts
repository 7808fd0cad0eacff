import { openMesh } from '../pack/openers/open-mesh.ts'
import { documentToGlb } from '../item/io.ts'
import { drawByFlags, materialTag } from '../game/material-tag.ts'
import { z } from 'zod'
import type { Document, Material } from '@gltf-transform/core'
import { FIRST_LOOK, addLook } from '../item/looks.ts'
import type { ItemEntry } from '../item/entry.ts'
import { getRootExtras, setRootExtras } from '../item/extras.ts'
import { createDocument } from '../item/io.ts'
import { itemScene, listUsedMaterials } from '../item/parts.ts'
import { plainMessage } from '../support/plain-error.ts'
import { enterWorkingSpace } from '../pack/space-door.ts'
import { recogniseRoles } from '../pack/node-roles.ts'
import { WORKING_FORWARD, WORKING_UP } from '../maths/axes.ts'
import { isGameName } from '../game/names.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { checkItem, type Report } from '../rules/registry.ts'
import type { Finding } from '../rules/rule.ts'
import type { TogetherFacts } from '../game/catalogue/together-facts.ts'
import { togetherFacts } from '../operations/entry/together-facts.ts'
import type { Entry } from './entry-file.ts'
import { checkDaeFile } from './dae-file.ts'
import { fileFinding } from './file-finding.ts'
import { dress, lookFault, readLook, type Look, type OpenedMaps } from './look-file.ts'
import { addMeshFile, type MeshFile } from './mesh-file.ts'
import { checkObjFile } from './obj-file.ts'
import { checkPartListFile, gaugeOfPartList, toldByPartList } from './part-list-file.ts'

type Files = ReadonlyMap<string, Uint8Array>

/** What was found of an item, and what the others of its pack have to know of it. */
export type InspectedItem = Report & { facts: TogetherFacts | null }

/**
 * An item of a pack as the rules know items: its mesh files put together, in the game's own space, with what its looks
 * show. What only a file can be wrong in is told beside what the rules find.
 *
 * @example const { findings } = await inspectItem(entry, kind, meshes, content, rulebook, said)
 */
export async function inspectItem(
  entry: Entry,
  kind: Kind,
  meshes: readonly string[],
  content: Files,
  rulebook: Rulebook,
  said: ItemEntry | null,
): Promise<InspectedItem> {
  const findings: Finding[] = []
  const document = createDocument(entry.item)
  setRootExtras(document.getRoot(), {
    axes: { up: WORKING_UP, forward: WORKING_FORWARD, from: 'declared' },
    units: { metresPerUnit: rulebook.space.unit.metres, from: 'declared' },
    entry: said ?? undefined,
  })
  const materials = new Map<string, Material>()
  const files: MeshFile[] = []
  for (const [number, path] of meshes.entries()) {
    try {
      const file = addMeshFile(document, await asGlb(path, number, entry, content, rulebook), materials)
      findings.push(...checkFile(path, file, kind, rulebook))
      findings.push(...checkText(path, content.get(path) ?? new Uint8Array(0), besideOf(entry, number), kind, rulebook))
      files.push(file)
    } catch (error) {
      return {
        findings: [
          ...findings,
          meshFault(
            'blocks',
            path,
            `a ${rulebook.files.mesh.writer.toUpperCase()} the game reads`,
            `${path} cannot be read: ${plainMessage(error)}`,
          ),
        ],
        gauges: [],
        facts: null,
      }
    }
  }
  const roots = files.flatMap((file) => file.roots)
  if (kind.mesh && (roots.length !== kind.models.length || roots.some((root) => !root.isPlain)))
    findings.push(
      meshFault(
        'blocks',
        meshes[0],
        'one plain root a mesh',
        'The mesh needs one root at the origin, without turn, scale or faces of its own',
      ),
    )
  enterWorkingSpace(document, rulebook)
  recogniseRoles(document, rulebook)
  const opened: OpenedMaps = new Map()
  const looks = entry.looks.map((path) => ({ path, ...readLook(path, content, rulebook) }))
  findings.push(...looks.flatMap((look) => look.findings))
  const read = looks.flatMap(({ path, look }) => (look ? [{ path, look }] : []))
  setRootExtras(document.getRoot(), {
    ...getRootExtras(document.getRoot()),
    lookNames: read.map(({ look }) => look.look),
  })
  if (kind.mesh === null)
    showOnBoards(
      document,
      read.flatMap(({ look }) => Object.keys(look.materials)),
      materials,
    )
  for (const [number, { path, look }] of read.entries())
    findings.push(
      ...(await wear(document, number === 0 ? FIRST_LOOK : path, path, look, kind, content, rulebook, opened)),
    )
  // Names stay as the file has them, so that findings name what is in it.
  for (const material of document.getRoot().listMaterials())
    drawByFlags(document, material, materialTag(material, rulebook).flags, rulebook)
  const report = checkItem({ document, rulebook, kind, itemName: entry.item, slot: entry.slot ?? null })
  const facts = togetherFacts(document, rulebook, kind, entry.item)
  if (rulebook.files.mesh.writer !== 'part-list')
    return { findings: [...findings, ...report.findings], gauges: report.gauges, facts }
  const list = content.get(meshes[0]) ?? new Uint8Array(0)
  return {
    findings: [...findings, ...report.findings.filter(({ rule }) => !toldByPartList.has(rule))],
    gauges: report.gauges.map((gauge) => gaugeOfPartList(gauge, list, rulebook)),
    facts,
  }
}

/**
 * A mesh file as the GLB that is looked at closely; other formats are opened first, with what the entry says for them.
 */
async function asGlb(
  path: string,
  number: number,
  entry: Entry,
  files: Files,
  rulebook: Rulebook,
): Promise<Uint8Array> {
  const bytes = files.get(path) ?? new Uint8Array(0)
  if (rulebook.files.mesh.writer === 'glb') return bytes
  const document = await openMesh({ path, bytes, files, beside: besideOf(entry, number) }, rulebook)
  document.getRoot().setExtras({})
  return documentToGlb(document)
}

/** What the entry says of one of its mesh files. */
const besideOf = (entry: Entry, number: number): unknown =>
  entry.ofModels ? Object.values(entry.ofModels)[number] : entry

const objectsSchema = z.object({ nodes: z.array(z.object({ object: z.string().optional() })) })

/** What only the file as it lies tells, in formats that are read as something else. */
function checkText(path: string, bytes: Uint8Array, beside: unknown, kind: Kind, rulebook: Rulebook): Finding[] {
  const fault = (limit: string, message: string): Finding => meshFault('blocks', path, limit, message)
  if (rulebook.files.mesh.writer === 'part-list') return checkPartListFile(bytes, rulebook, kind, fault)
  if (rulebook.files.mesh.writer === 'dae') return checkDaeFile(bytes, rulebook, fault)
  if (rulebook.files.mesh.writer !== 'obj') return []
  const said = objectsSchema.safeParse(beside)
  const known = said.success ? said.data.nodes.flatMap(({ object }) => object ?? []) : null
  return checkObjFile(bytes, kind, known, fault)
}

const meshFault = (severity: 'blocks' | 'risky', where: string, limit: string, message: string): Finding =>
  fileFinding({
    rule: 'mesh-file',
    severity,
    title: 'Mesh file',
    where,
    limit,
    message,
    why: 'The loader reads the file as it lies, and skips what it does not know.',
  })

/** What a mesh file carries that does not become part of the item, and the names of its roots. */
function checkFile(
  path: string,
  { roots, images, lights, morphing, unknownExtension }: MeshFile,
  kind: Kind,
  rulebook: Rulebook,
): Finding[] {
  const findings: Finding[] = []
  for (const { name } of roots)
    if (!isGameName(rulebook, name))
      findings.push(
        meshFault('blocks', path, rulebook.names.described, `The root “${name}” is not a name the game reads`),
      )
  if (images > 0 && rulebook.files.mesh.images === 'none')
    findings.push(meshFault('blocks', path, 'no images', 'The mesh file carries images'))
  if (lights > kind.mostLights)
    findings.push(
      meshFault(
        'risky',
        path,
        String(kind.mostLights),
        `The mesh file carries ${lights} lights; ${kind.mostLights} of a ${kind.title.toLowerCase()} are lit`,
      ),
    )
  if (morphing !== null)
    findings.push(
      meshFault('risky', path, 'one shape', `${morphing} has shapes to morph to; the game draws the first alone`),
    )
  if (unknownExtension !== null)
    findings.push(meshFault('risky', path, 'no extensions', `The game does not know ${unknownExtension} and skips it`))
  return findings
}

/** What has no mesh is looked at on a board of two triangles for each material. */
function showOnBoards(document: Document, names: readonly string[], materials: Map<string, Material>): void {
  const [buffer] = document.getRoot().listBuffers()
  const places = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]))
    .setBuffer(buffer)
  const uvs = document
    .createAccessor()
    .setType('VEC2')
    .setArray(new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]))
    .setBuffer(buffer)
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
    .setBuffer(buffer)
  for (const [number, name] of [...new Set(names)].entries()) {
    const material = document.createMaterial(name)
    materials.set(name, material)
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', places)
      .setAttribute('TEXCOORD_0', uvs)
      .setIndices(indices)
      .setMaterial(material)
    itemScene(document).addChild(
      document.createNode(`board_${number}`).setMesh(document.createMesh().addPrimitive(primitive)),
    )
  }
}

/** Where a material is named by the path of what it shows: whether it is. */
function nameFaults(look: string, name: string, maps: Record<string, string>, rulebook: Rulebook): Finding[] {
  const { naming } = rulebook.materials
  if (naming.form !== 'path') return []
  const path = maps[naming.ofRole]?.replace(/\.[^./]*$/, '')
  if (path === undefined || path === name) return []
  return [lookFault(look, path, `The material “${name}” is not the path of what it shows, ${path}`)]
}

/**
 * Dresses the item's materials in a look; the first look dresses them themselves, each further one what stands in their
 * place.
 */
async function wear(
  document: Document,
  look: string,
  path: string,
  lines: Look,
  kind: Kind,
  content: Files,
  rulebook: Rulebook,
  opened: OpenedMaps,
): Promise<Finding[]> {
  const findings: Finding[] = []
  const used = listUsedMaterials(document)
  if (kind.mesh === null && Object.keys(lines.materials).length === 0)
    findings.push(lookFault(path, 'one material or more', 'The look shows nothing'))
  const instead = new Map<Material, Material>()
  for (const material of used) {
    const line = Object.hasOwn(lines.materials, material.getName()) ? lines.materials[material.getName()] : undefined
    if (!line) {
      if (kind.mesh !== null)
        findings.push(lookFault(path, 'every material of the mesh', `The look says nothing of ${material.getName()}`))
      continue
    }
    const shown = look === FIRST_LOOK ? material : document.createMaterial(material.getName())
    findings.push(...nameFaults(path, material.getName(), line.maps, rulebook))
    findings.push(...(await dress(document, shown, line, content, rulebook, opened)))
    instead.set(material, shown)
  }
  if (look !== FIRST_LOOK) addLook(document, look, instead)
  return findings
}
