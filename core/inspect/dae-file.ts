import { allOf, firstOf, numbersOf, parseXml, type XmlElement } from '../support/xml.ts'
import type { Rulebook } from '../game/schema.ts'
import { skinFaults } from './dae-skins.ts'
import type { Finding } from '../rules/rule.ts'

const ups: Record<string, string> = { '+x': 'X_UP', '+y': 'Y_UP', '+z': 'Z_UP' }
const otherFaces = ['polylist', 'polygons', 'tristrips', 'trifans']
const otherPlaces = ['translate', 'rotate', 'scale', 'lookat', 'skew']

/**
 * What is wrong with a COLLADA of a pack as a file: what it declares, and what it is written with that is read as
 * something else here and not at all by the game.
 *
 * @example findings.push(...checkDaeFile(bytes, rulebook, fault))
 */
export function checkDaeFile(
  bytes: Uint8Array,
  { space }: Rulebook,
  fault: (limit: string, message: string) => Finding,
): Finding[] {
  const root = parseXml(new TextDecoder().decode(bytes), 'mesh')
  const findings: Finding[] = []
  const asset = firstOf(root, 'asset')
  const metres = Number(firstOf(asset, 'unit')?.attributes['meter'] ?? '1')
  if (Math.abs(metres / space.unit.metres - 1) > 1e-6)
    findings.push(fault(`${space.unit.metres} m`, `It declares a unit of ${metres} m`))
  const up = firstOf(asset, 'up_axis')?.text.trim() ?? 'Y_UP'
  if (up !== ups[space.up]) findings.push(fault(ups[space.up] ?? space.up, `It declares ${up}`))
  return [...findings, ...faultsOfElements(elementsOf(root), fault)]
}

function elementsOf(root: XmlElement): XmlElement[] {
  const found: XmlElement[] = []
  const waiting = [root]
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    found.push(next)
    waiting.push(...next.children)
  }
  return found
}

function faultsOfElements(
  elements: readonly XmlElement[],
  fault: (limit: string, message: string) => Finding,
): Finding[] {
  const names = new Set(elements.map(({ name }) => name))
  const findings: Finding[] = []
  const faces = otherFaces.find((name) => names.has(name))
  if (faces !== undefined) findings.push(fault('triangles', `It has ${faces}; the game draws triangles`))
  const placedTwice = elements.some((each) => each.name === 'node' && countOf(each, 'matrix') > 1)
  if (placedTwice || otherPlaces.some((name) => names.has(name)))
    findings.push(fault('one matrix', 'A node is placed by more than a matrix'))
  const strange = ['instance_node', 'instance_camera', 'instance_light'].find((name) => names.has(name))
  if (strange !== undefined)
    findings.push(fault('geometries', `A node holds an ${strange.replace('_', ' ')}, which the game does not read`))
  for (const { limit, message, complains } of skinFaults(elements))
    findings.push({ ...fault(limit, message), ...(complains ? { severity: 'risky' as const } : {}) })
  const ids = elements.flatMap(({ attributes }) => attributes['id'] ?? [])
  const known = new Set(ids)
  if (known.size < ids.length) {
    const twice = ids.find((id, at) => ids.indexOf(id) !== at) ?? ''
    findings.push(fault('each id once', `Two things are called “${twice.slice(0, 60)}”`))
  }
  const gone = elements.find(({ attributes: { url, source } }) =>
    [url, source].some((each) => each?.startsWith('#') === true && !known.has(each.slice(1))),
  )
  if (gone)
    findings.push(
      fault(
        'what it names',
        `It speaks of “${gone.attributes['url'] ?? gone.attributes['source']}”, which is not there`,
      ),
    )
  if (elements.some((each) => each.name === 'matrix' && numbersOf(each).length !== 16))
    findings.push(fault('16 numbers', 'A matrix has more or fewer than 16 numbers'))
  if (elements.some((each) => each.name === 'triangles' && !isWhole(each)))
    findings.push(fault('three corners', 'A triangle is not whole'))
  return findings
}

const countOf = (element: XmlElement, name: string): number => allOf(element, name).length

/** Whether the indices of some triangles are as many as their corners and inputs ask for. */
function isWhole(triangles: XmlElement): boolean {
  const offsets = allOf(triangles, 'input').map(({ attributes }) => Number(attributes['offset']))
  const stride = Math.max(0, ...offsets) + 1
  return numbersOf(firstOf(triangles, 'p')).length % (stride * 3) === 0
}
