import type { Rulebook } from '../game/schema.ts'
import { fillTemplate } from '../support/templates.ts'
import type { SeenMaterial } from './learn-looks.ts'
import type { SeenItem } from './learn-files.ts'
import { Tally, type LearnedLine } from './learned.ts'

const LARGEST_TEXT = 20_000
const MOST_LINES = 64
const LONGEST_LINE = 500

interface SeenText {
  path: string
  lines: string[]
  words: Record<string, string>
}

/**
 * The text file that a game wants for each material: where it lies, and its lines with the words of the material in
 * braces. A line that some materials lack is one whose words they have none of.
 *
 * @example const lines = learnMaterialTexts(shown, rulebook)
 */
export function learnMaterialTexts(
  materials: readonly { of: SeenItem; material: SeenMaterial }[],
  base: Rulebook,
): LearnedLine[] {
  const texts = materials.flatMap((seen) => textOf(seen) ?? [])
  const where = new Tally<string>()
  for (const { path, words } of texts) where.add(path.replace(words['material'], '{material}'), path)
  const path = where.line(['files', 'paths', 'material'], 'where the text of a material lies', true)
  if (!path) return []
  const known = base.files.materialTemplate
  const isKnown = known !== undefined && texts.every((text) => says(known, text))
  const template = isKnown ? known : templateOf(texts)
  const against = texts.filter((text) => !says(template, text)).map((text) => ({ file: text.path, value: text.lines }))
  return [
    path,
    {
      path: ['files', 'materialTemplate'],
      value: template,
      files: texts.length - against.length,
      sureness: against.length > 0 ? 'guess' : texts.length > 2 ? 'sure' : 'likely',
      why: `the text of each material: ${template.map((line) => `“${line}”`).join(', ')}`,
      against: against.slice(0, 8),
    },
  ]
}

/** The text file that carries a material's name in its path, with what the look says of that material. */
function textOf({ of, material }: { of: SeenItem; material: SeenMaterial }): SeenText | null {
  const taken = new Set([...of.pack.meshes, ...of.pack.pictures, of.entry.path, ...of.looks.map(({ path }) => path)])
  const found = [...of.pack.files].find(
    ([path, bytes]) =>
      path.includes(material.name) && !taken.has(path) && bytes.length <= LARGEST_TEXT && !bytes.includes(0),
  )
  if (!found) return null
  const [path, bytes] = found
  const words: Record<string, string> = {
    material: material.name,
    surface: material.surface ?? '',
    flags: material.flags.join(' '),
  }
  for (const [role, map] of Object.entries(material.maps)) words[role] = map.replace(/\.[^./]*$/, '')
  const lines = new TextDecoder().decode(bytes).split(/\r?\n/)
  while (lines.at(-1) === '') lines.pop()
  return { path, lines: lines.slice(0, MOST_LINES).map((line) => line.slice(0, LONGEST_LINE)), words }
}

const asked = (line: string): string[] => [...line.matchAll(/\{(\w+)\}/g)].map(([, word]) => word)

/** Whether a template gives the lines of a text. */
function says(template: readonly string[], { lines, words }: SeenText): boolean {
  const written = template
    .filter((line) => asked(line).length === 0 || asked(line).some((word) => (words[word] ?? '') !== ''))
    .map((line) =>
      fillTemplate(
        line.replace(/\{(\w+)\}/g, (all, word: string) => (word in words ? all : '')),
        words,
      ),
    )
  return written.join('\n') === lines.join('\n')
}

/** The lines of all texts with words in braces, each once, in the order of the longest text. */
function templateOf(texts: readonly SeenText[]): string[] {
  const [first, ...others] = texts.map(lineTemplates).sort((a, b) => b.length - a.length)
  const template = [...(first ?? [])]
  for (const lines of others)
    for (const [at, line] of lines.entries())
      if (!template.includes(line)) template.splice(at === 0 ? 0 : template.indexOf(lines[at - 1]) + 1, 0, line)
  return template.slice(0, MOST_LINES)
}

/**
 * Longer words first: a surface may be part of a path. Where the path of a map is the name itself, the first line has
 * the name and the next the map.
 */
function lineTemplates({ lines, words }: SeenText): string[] {
  const known = Object.entries(words)
    .filter(([, word]) => word !== '')
    .sort(([, a], [, b]) => b.length - a.length)
  const used = new Set<string>()
  return lines.map((line) => {
    let made = line
    for (const [name, word] of known) {
      const same = known.filter(([, other]) => other === word)
      const next = same.find(([each]) => !used.has(each))?.[0] ?? name
      if (next !== name && same.length > 1) continue
      const filled = replaceWord(made, word, `{${name}}`)
      if (filled !== made) used.add(name)
      made = filled
    }
    return made
  })
}

/** The first such word that stands alone: no letter or digit before or after it. */
function replaceWord(line: string, word: string, by: string): string {
  for (let at = line.indexOf(word); at >= 0; at = line.indexOf(word, at + 1)) {
    const [before, after] = [line.slice(0, at), line.slice(at + word.length)]
    if (!/[\p{L}\p{N}{]$/u.test(before) && !/^[\p{L}\p{N}}]/u.test(after)) return before + by + after
  }
  return line
}
