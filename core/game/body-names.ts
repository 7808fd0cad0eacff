import type { BodyRole } from '../item/body-role.ts'
import { fillTemplate, templatePattern } from '../support/templates.ts'
import { cleanName, uniqueName } from './clean-name.ts'
import type { Kind, Rulebook } from './schema.ts'

/** How a rulebook calls its bodies. */
type Called = Pick<Rulebook, 'bodies'>

const fixedLength = (template: string): number => template.replace('{part}', '').length

/** Roles with the template of their names: a plain name fits any, so that what says most is asked first. */
const templatesOf = ({ bodies }: Called): [BodyRole, string][] =>
  (Object.entries(bodies ?? {}) as [BodyRole, string][]).toSorted(([, a], [, b]) => fixedLength(b) - fixedLength(a))

/**
 * What the game takes a part of level geometry for by its name; one whose name says nothing is solid.
 *
 * @example bodyInName({ bodies: { solid: '{part}', hollow: 'hollow_{part}', trim: 'trim_{part}' } }, 'trim_sill') // 'trim'
 */
export const bodyInName = (called: Called, name: string): BodyRole =>
  templatesOf(called).find(([, template]) => templatePattern(template, { part: '.+' }).test(name))?.[0] ?? 'solid'

/**
 * Whether a game tells solid, hollow and trim apart in this kind.
 * @example const bodies = tellsBodies(rulebook, kind) ? listBodies(document, { rulebook, kind }) : []
 */
export const tellsBodies = ({ bodies }: Called, { faceRoles }: Pick<Kind, 'faceRoles'>): boolean =>
  bodies !== null && faceRoles.length > 0

/**
 * What a name calls a part besides what it says of its role.
 *
 * @example nameOfBody({ bodies: { solid: '{part}', hollow: 'hollow_{part}', trim: 'trim_{part}' } }, 'trim_sill') // 'sill'
 */
export function nameOfBody(called: Called, name: string): string {
  for (const [, template] of templatesOf(called)) {
    const own = templatePattern(template, { part: '(.+)' }).exec(name)?.[1]
    if (own !== undefined) return own
  }
  return name
}

/**
 * What two names have in common that call one part, whatever they say of its role, before or after names were cleaned.
 *
 * @example if (keyOfBody(rulebook, before.name) === keyOfBody(rulebook, after.name)) pairs.push([before, after])
 */
export const keyOfBody = (rulebook: Rulebook, name: string): string =>
  cleanName(rulebook, nameOfBody(rulebook, name), 'part')

/**
 * A name that the game accepts and by which it knows what the part does; numbered until nobody has it.
 * @param taken names that are given already
 *
 * @example bodyName(rulebook, 'hollow', 'Cellar', new Set()) // hollow_cellar
 */
export function bodyName(rulebook: Rulebook, is: BodyRole, name: string, taken: ReadonlySet<string>): string {
  const template = rulebook.bodies?.[is] ?? '{part}'
  const longest = Math.max(1, rulebook.names.longest - fixedLength(template))
  const room = { ...rulebook, names: { ...rulebook.names, longest } }
  const pattern = templatePattern(template, { part: '(.+)' })
  const ownTaken = new Set([...taken].flatMap((each) => pattern.exec(each)?.[1] ?? []))
  return fillTemplate(template, { part: uniqueName(room, keyOfBody(room, name), ownTaken) })
}
