import { RE2JS } from 're2js'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'

/** What each node of the mesh file is for, by its name alone. */
export interface SortedNodes {
  view: LoadedNode[]
  levels: Map<number, LoadedNode[]>
  shadow: LoadedNode[]
  solids: LoadedNode[]
}

/**
 * Triangles of a mesh that was loaded.
 * @example if (trianglesOf(nodes) > kind.mesh.triangles) log.refuse(file)
 */
export const trianglesOf = (nodes: readonly LoadedNode[]): number =>
  nodes.reduce(
    (sum, node) => sum + node.primitives.reduce((each, primitive) => each + primitive.indices.length / 3, 0),
    0,
  )

/**
 * A template with each {word} replaced.
 *
 * @example fillTemplate('items/{id}/{id}.glb', { id: 'gate' }) // 'items/gate/gate.glb'
 */
export const fillTemplate = (template: string, words: Record<string, string>): string =>
  Object.entries(words).reduce((path, [word, value]) => path.replaceAll(`{${word}}`, value), template)

const patternOf = (template: string, words: Record<string, string>): RegExp =>
  new RegExp(`^${fillTemplate(template.replace(/[-.*+?^$()|[\]\\]/g, '\\$&'), words)}$`)

/**
 * The shape that a solid's name tells; null for the name of something else.
 * @example const shape = shapeInName(node.name, rulebook)
 */
export const shapeInName = (name: string, rulebook: Rulebook): string | null =>
  patternOf(rulebook.solids.name, { shape: '(box|ball|capsule|cylinder|hull|mesh)', nn: '\\d\\d+' }).exec(name)?.[1] ??
  null

/**
 * Whether a file of the archive announces an item: by its name where all entries have one, else by its whole path.
 * @example const entries = [...archive.keys()].filter((path) => announcesItem(path, rulebook))
 */
export function announcesItem(path: string, { files }: Rulebook): boolean {
  const fileName = files.paths.entry.split('/').pop() ?? ''
  if (!fileName.includes('{')) return path.split('/').pop() === fileName
  const any = { category: '[^/]+', item: '[^/]+', slot: '[^/]+', SLOT: '[^/]+', look: '[^/]+' }
  // A look's name may fit an entry's template as well: the template that fixes more of the name says which it is.
  const fixed = (template: string): number => template.split(/\{\w+\}/).join('').length
  const isLook = patternOf(files.paths.look, any).test(path) && fixed(files.paths.look) > fixed(files.paths.entry)
  return !isLook && path !== files.manifest.path && patternOf(files.paths.entry, any).test(path)
}

/**
 * Sorts nodes by their names, as the rulebook words them; whatever fits none is drawn.
 * @example const { view, solids } = sortNodes(nodes, rulebook)
 */
export function sortNodes(nodes: readonly LoadedNode[], rulebook: Rulebook): SortedNodes {
  const sorted: SortedNodes = { view: [], levels: new Map(), shadow: [], solids: [] }
  const level = patternOf(`{part}${rulebook.levels.nameSuffix}`, { part: '.+', level: '(\\d)' })
  for (const node of nodes) {
    if (node.primitives.length === 0) continue
    const levelNumber = Number(level.exec(node.name)?.[1] ?? 0)
    if (shapeInName(node.name, rulebook) !== null) sorted.solids.push(node)
    else if (levelNumber > 0 && isBelow(node))
      sorted.levels.set(levelNumber, [...(sorted.levels.get(levelNumber) ?? []), node])
    else if (node.name.endsWith(rulebook.levels.shadow.nameSuffix) && isBelow(node)) sorted.shadow.push(node)
    else sorted.view.push(node)
  }
  return sorted
}

type BodyWord = keyof NonNullable<Rulebook['bodies']>

/**
 * What a body of level geometry is by the beginning and the end of its name; solid where nothing is said.
 * @example const isHollow = bodyWord(node.name, rulebook, kind) === 'hollow'
 */
export function bodyWord(name: string, { bodies }: Rulebook, { faceRoles }: Kind): BodyWord {
  if (!bodies || faceRoles.length === 0) return 'solid'
  const fits = (word: BodyWord): boolean => {
    const [before, after = ''] = bodies[word].split('{part}')
    return name.length > before.length + after.length && name.startsWith(before) && name.endsWith(after)
  }
  const words: BodyWord[] = ['solid', 'hollow', 'trim']
  // Of two that fit, the one that has more in the name counts.
  return words.filter(fits).sort((a, b) => bodies[b].length - bodies[a].length)[0] ?? 'solid'
}

/** Levels and shadows hang below the part they stand for and begin with its name. */
const isBelow = (node: LoadedNode): boolean =>
  node.parent !== null && node.parent.primitives.length > 0 && node.name.startsWith(node.parent.name)

const patterns = new Map<string, RE2JS>()

/** A rulebook's pattern is anyone's: it is matched by an engine that takes linear time whatever the pattern. */
function namePattern(source: string): RE2JS {
  const known = patterns.get(source) ?? RE2JS.compile(source)
  patterns.set(source, known)
  return known
}

/**
 * Whether the game takes a name.
 * @example nameIsAccepted('', rulebook) // false
 */
export function nameIsAccepted(name: string, rulebook: Rulebook): boolean {
  const { pattern, longest, reserved } = rulebook.names
  return name.length <= longest && namePattern(pattern).matches(name) && !reserved.includes(name)
}

/**
 * What of a map's path is its own name: the rest is the game's, by the template of such paths; a strange path has its
 * file's name.
 *
 * @example const name = nameInPath(path, rulebook)
 */
export function nameInPath(path: string, { files, slots }: Rulebook): string {
  const nameOf = (whole: string): string =>
    whole
      .replace(/\.[^./]*$/, '')
      .split('/')
      .pop() ?? ''
  const listed = (spell: (slot: string) => string): string =>
    slots ? `(?:${slots.listed.map(({ slot }) => spell(slot)).join('|')})` : '.+?'
  const words = {
    category: '.+?',
    item: '.+?',
    look: '.+?',
    slot: listed((slot) => slot),
    SLOT: listed((slot) => slot.toUpperCase()),
    map: '(.+)',
  }
  const own = nameOf(path)
  return patternOf(nameOf(files.paths.map), words).exec(own)?.[1] ?? own
}
