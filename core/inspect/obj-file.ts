import type { Kind } from '../game/schema.ts'
import type { Finding } from '../rules/rule.ts'
import { formatCount } from '../support/wording.ts'

/** What only the text of an OBJ tells: what it is read as has no sections and no larger faces any more. */
interface ObjFacts {
  /** Runs of triangles from one line that names a material to the next, each with its different corners. */
  sections: { object: string; corners: number }[]
  objects: string[]
  largerFaces: number
}

function readFacts(bytes: Uint8Array): ObjFacts {
  const facts: ObjFacts = { sections: [], objects: [], largerFaces: 0 }
  let object = ''
  let corners: Set<string> | null = null
  for (const line of new TextDecoder().decode(bytes).split(/\r?\n/)) {
    const [word, ...rest] = line.trim().split(/\s+/)
    if (word === 'o') {
      object = rest.join(' ')
      facts.objects.push(object)
    }
    if (word === 'o' || word === 'usemtl') corners = null
    if (word !== 'f') continue
    if (rest.length !== 3) facts.largerFaces++
    if (!corners) {
      corners = new Set()
      facts.sections.push({ object, corners: 0 })
    }
    for (const corner of rest) corners.add(corner)
    facts.sections[facts.sections.length - 1].corners = corners.size
  }
  return facts
}

/**
 * What is wrong with an OBJ of a pack as a file: sections, larger faces, objects that its entry does not know.
 * @param known the objects that the entry names; null where it names none
 *
 * @example findings.push(...checkObjFile(bytes, kind, null, fault))
 */
export function checkObjFile(
  bytes: Uint8Array,
  { mesh }: Kind,
  known: readonly string[] | null,
  fault: (limit: string, message: string) => Finding,
): Finding[] {
  const { sections, objects, largerFaces } = readFacts(bytes)
  const findings: Finding[] = []
  const limits = mesh?.sections
  if (limits && sections.length > limits.most)
    findings.push(
      fault(formatCount(limits.most), `${formatCount(sections.length)} sections; ${formatCount(limits.most)} are read`),
    )
  const heavy = limits ? sections.filter(({ corners }) => corners > limits.corners) : []
  for (const { object, corners } of heavy)
    findings.push(
      fault(
        formatCount(limits?.corners ?? 0),
        `A section of ${object} has ${formatCount(corners)} corners; ${formatCount(limits?.corners ?? 0)} are read`,
      ),
    )
  if (largerFaces > 0)
    findings.push(fault('triangles', `${formatCount(largerFaces)} faces have more or fewer than three corners`))
  const stranger = known && objects.find((object) => !known.includes(object))
  if (stranger !== null && stranger !== undefined)
    findings.push(fault('objects of the entry', `The entry knows nothing of the object “${stranger}”`))
  return findings
}
