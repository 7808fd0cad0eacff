import { allOf, firstOf, numbersOf, type XmlElement } from '../support/xml.ts'
import { formatCount } from '../support/wording.ts'

/** What is wanted of bones, and what the file has; `complains` where it is loaded nevertheless. */
export interface SkinFault {
  limit: string
  message: string
  complains: boolean
}

/**
 * What is wrong with the bones of a COLLADA: bones that are named and not
 * there, without rest, and corners that they do not hold (COLLADA 1.4.1, chapter 4, “Skin a skeleton”).
 *
 * @example const [first] = skinFaults(elementsOf(root))
 */
export function skinFaults(elements: readonly XmlElement[]): SkinFault[] {
  const byId = new Map(
    elements.flatMap((each): [string, XmlElement][] => (each.attributes['id'] ? [[each.attributes['id'], each]] : [])),
  )
  const sids = new Set(elements.flatMap(({ name, attributes: { sid } }) => (name === 'node' && sid ? [sid] : [])))
  const controllers = elements.filter(({ name }) => name === 'controller')
  return controllers.flatMap((controller) => {
    const skin = firstOf(controller, 'skin')
    const faults: SkinFault[] = []
    const add = (limit: string, message: string, complains = false) => faults.push({ limit, message, complains })
    if (!skin) {
      add('bones', 'It has shapes to morph to, which the game does not read')
      return faults
    }
    const listOf = (of: string, semantic: string): XmlElement | undefined => {
      const input = allOf(firstOf(skin, of), 'input').find(({ attributes }) => attributes['semantic'] === semantic)
      const source = byId.get(input?.attributes['source']?.slice(1) ?? '')
      const accessor = firstOf(firstOf(source, 'technique_common'), 'accessor')
      return byId.get(accessor?.attributes['source']?.slice(1) ?? '')
    }
    const bones = (listOf('joints', 'JOINT')?.text ?? '').split(/\s+/).filter((word) => word !== '')
    const weights = numbersOf(listOf('vertex_weights', 'WEIGHT'))
    const gone = bones.find((bone) => !sids.has(bone))
    if (gone !== undefined) add('bones that are there', `It is held by “${gone.slice(0, 60)}”, which is not there`)
    if (numbersOf(listOf('joints', 'INV_BIND_MATRIX')).length !== bones.length * 16)
      add('a rest for each bone', 'A bone has no rest')
    if (!holdsAll(skin, bones.length, weights.length))
      add('bones that are there', 'A corner is held by a bone that is not there')
    const uneven = unevenCorners(skin, weights)
    if (uneven > 0) add('1 a corner', `The weights of ${formatCount(uneven)} corners do not make 1`, true)
    return faults
  })
}

/** Whether every corner’s bones and weights are among those that are listed. */
function holdsAll(skin: XmlElement, bones: number, weights: number): boolean {
  const told = firstOf(skin, 'vertex_weights')
  const inputs = allOf(told, 'input')
  const stride = Math.max(0, ...inputs.map(({ attributes }) => Number(attributes['offset'] ?? 0))) + 1
  const pairs = numbersOf(firstOf(told, 'v'))
  const wanted = numbersOf(firstOf(told, 'vcount')).reduce((sum, count) => sum + count, 0)
  return (
    pairs.length === wanted * stride &&
    inputs.every(({ attributes: { offset, semantic } }) => {
      const most = semantic === 'JOINT' ? bones : weights
      return pairs.every((value, at) => at % stride !== Number(offset ?? 0) || (value >= 0 && value < most))
    })
  )
}

const OFF = 0.01

/** How many corners have weights that do not make 1. */
function unevenCorners(skin: XmlElement, weights: ArrayLike<number>): number {
  const told = firstOf(skin, 'vertex_weights')
  const inputs = allOf(told, 'input')
  const offsetOf = (input: XmlElement | undefined): number => Number(input?.attributes['offset'] ?? 0)
  const stride = Math.max(0, ...inputs.map(offsetOf)) + 1
  const weightAt = offsetOf(inputs.find(({ attributes }) => attributes['semantic'] === 'WEIGHT'))
  const pairs = numbersOf(firstOf(told, 'v'))
  let at = 0
  let uneven = 0
  for (const count of numbersOf(firstOf(told, 'vcount'))) {
    let sum = 0
    for (let each = 0; each < count; each++, at += stride) sum += weights[pairs[at + weightAt]] ?? 0
    if (Math.abs(sum - 1) > OFF) uneven++
  }
  return uneven
}
