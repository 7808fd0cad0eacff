import { templatePattern } from '../support/templates.ts'
import type { Rulebook } from './schema.ts'

/** How much of a template is fixed text: of two that fit a path, the one with more says what it is. */
const fixedLength = (template: string): number => template.replace(/\{\w+\}/g, '').length

const within = '[^/]+'

/** Whether a path in a pack is that of a look, as the game names looks. */
export const isLookPath = (path: string, { files }: Rulebook): boolean =>
  templatePattern(files.paths.look, { category: within, item: within, look: within }).test(path)

/**
 * Whether a path in a pack is that of an item's entry, as the game names entries. Where every entry has the same file
 * name, one in a wrong folder counts too, so that it can be said where it belongs.
 */
export function isEntryPath(path: string, rulebook: Rulebook): boolean {
  const template = rulebook.files.paths.entry
  const fileName = template.slice(template.lastIndexOf('/') + 1)
  if (!fileName.includes('{')) return path.slice(path.lastIndexOf('/') + 1) === fileName
  return (
    templatePattern(template, { category: within, item: within }).test(path) &&
    path !== rulebook.files.manifest.path &&
    !(fixedLength(rulebook.files.paths.look) > fixedLength(template) && isLookPath(path, rulebook))
  )
}
