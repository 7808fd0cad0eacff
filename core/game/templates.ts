import { templatePattern } from '../support/templates.ts'
import type { Rulebook } from './schema.ts'

/** How much of a template is fixed text: of two that fit a path, the one with more says what it is. */
const fixedLength = (template: string): number => template.replace(/\{\w+\}/g, '').length

const within = '[^/]+'
const itemPatterns = { category: within, item: within, slot: within, SLOT: within }

/** Whether a path in a pack is that of a look, as the game names looks. */
export const isLookPath = (path: string, { files }: Rulebook): boolean =>
  templatePattern(files.paths.look, { ...itemPatterns, look: within }).test(path)

/**
 * Whether a path in a pack is that of an item's entry, as the game names entries. Where every entry has the same file
 * name, one in a wrong folder counts too, so that it can be said where it belongs.
 *
 * @example const entries = [...files.keys()].filter((path) => isEntryPath(path, rulebook))
 */
export function isEntryPath(path: string, rulebook: Rulebook): boolean {
  const template = rulebook.files.paths.entry
  const fileName = template.slice(template.lastIndexOf('/') + 1)
  if (!fileName.includes('{')) return path.slice(path.lastIndexOf('/') + 1) === fileName
  return (
    templatePattern(template, itemPatterns).test(path) &&
    path !== rulebook.files.manifest.path &&
    !(fixedLength(rulebook.files.paths.look) > fixedLength(template) && isLookPath(path, rulebook))
  )
}

const mapPatterns = new WeakMap<Rulebook, RegExp>()

/**
 * The name of a map by its path in a pack: what stands where the template has {map}, without ending; the file's name
 * where the path is another.
 *
 * @example mapNameOf('skins/k-00a_bark_s.tga', rulebook)
 */
export function mapNameOf(path: string, rulebook: Rulebook): string {
  let pattern = mapPatterns.get(rulebook)
  if (!pattern) {
    const slots = rulebook.slots?.listed.map(({ slot }) => slot.replace(/[^a-z0-9]/gi, '\\$&')).join('|')
    const slot = slots === undefined ? within : `(?:${slots})`
    const template = rulebook.files.paths.map.replace(/\.[^./]*$/, '')
    const words = { category: within, item: '[^/]+?', slot, SLOT: slot.toUpperCase(), map: '([^/]+?)' }
    pattern = new RegExp(`${templatePattern(template, words).source.slice(0, -1)}\\.[^./]*$`)
    mapPatterns.set(rulebook, pattern)
  }
  return pattern.exec(path)?.[1] ?? (path.split('/').pop() ?? path).replace(/\.[^.]*$/, '')
}
