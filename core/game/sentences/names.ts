import type { RuleSentence, SentencesOf } from './sentence.ts'

/**
 * Names of parts, materials and maps.
 * @example const fields = namesSentences(rulebook).map(({ field }) => field)
 */
export const namesSentences: SentencesOf = ({ names, materials, maps }) => {
  const of = (field: string, sentence: string, why: string): RuleSentence => ({
    topic: 'names',
    field,
    kinds: null,
    sentence,
    why,
  })
  const { naming } = materials
  return [
    of(
      'names',
      `Names have ${names.described}, and up to ${names.longest} signs.`,
      'The loader looks things up by name and splits names at other signs.',
    ),
    ...(names.reserved.length > 0
      ? [
          of(
            'names.reserved',
            'Not taken as names: ' +
              `${names.reserved.slice(0, 4).join(', ')}${names.reserved.length > 4 ? ` and ${names.reserved.length - 4} more` : ''}.`,
            'Some disks take them for devices.',
          ),
        ]
      : []),
    of(
      'materials.naming',
      naming.form === 'marks'
        ? `A material is written name${naming.surfaceMark}surface${naming.flagMark}flag${naming.flagMark}flag.`
        : naming.form === 'path'
          ? `A material’s name is the path of its ${naming.ofRole} map from the game’s folder, without ending, up ` +
            `to ${naming.longest} signs.`
          : 'A material’s name is a name and nothing more.',
      naming.form === 'path'
        ? 'The loader takes the name for the path of a file, and keeps it in a field of fixed length.'
        : 'The name in the mesh is what everything else is looked up by.',
    ),
    ...(maps.roles.length === 0
      ? []
      : [
          of(
            'maps.roles',
            'Names of maps end in ' +
              `${maps.roles.map(({ ending, title }) => `${ending} (${title.toLowerCase()})`).join(', ')}.`,
            'The loader knows a map by the end of its name.',
          ),
        ]),
  ]
}
