import type { SentencesOf } from './sentence.ts'

/**
 * What is written, where it goes, and the places of a game that has no room for new things.
 * @example const fields = filesSentences(rulebook).map(({ field }) => field)
 */
export const filesSentences: SentencesOf = ({ files, maps, slots, title }) => {
  const { mesh, texture, archive, manifest, paths, entry, look, text } = files
  const of = (field: string, sentence: string, why: string) => ({
    topic: 'files' as const,
    field,
    kinds: null,
    sentence,
    why,
  })
  const written = ({ writer }: { writer: 'json' | 'text' | 'none' }): string =>
    writer === 'text' ? `text, a key, “${text.between}” and a value in each line` : 'JSON'
  const megabytes = (archive.largestBytes / 1024 / 1024).toFixed(0)
  return [
    of(
      'files.mesh',
      mesh.writer === 'part-list'
        ? `A thing is a list of half-blocks in JSON, at ${paths.mesh}.`
        : `Meshes are ${mesh.writer.toUpperCase()}${mesh.images === 'none' ? ' without pictures' : ''}, at ` +
            `${paths.mesh}.`,
      'The loader has a reader for one format.',
    ),
    ...(maps.roles.length === 0
      ? []
      : [
          of(
            'files.texture',
            `Maps are ${texture.writer.toUpperCase()}${
              texture.writer === 'tga'
                ? `, ${texture.packed ? 'packed or not' : 'not packed'}, first row at the ` +
                  `${texture.topDown ? 'top' : 'bottom'}`
                : ''
            }, at ${paths.map}.`,
            'A picture that has to be converted while playing holds everything up.',
          ),
        ]),
    of(
      'files.paths.look',
      `A look for each way the item is shown, at ${paths.look}: ${written(look)}.`,
      'Materials are found by name, and what they show stands beside the mesh.',
    ),
    ...(paths.material === undefined
      ? []
      : [
          of(
            'files.paths.material',
            `A text for each material, at ${paths.material}.`,
            'The game reads it line by line.',
          ),
        ]),
    of(
      'files.paths.entry',
      `An entry for each item, at ${paths.entry}: ${written(entry)}.`,
      'By it the game knows that the item exists.',
    ),
    of(
      'files.archive',
      archive.writer === 'folder'
        ? `Files lie loose in the game’s own folders, of at most ${megabytes} MiB together.`
        : `A pack is a ZIP, ${archive.writer === 'zip-stored' ? 'stored and not deflated' : 'deflated'}, of at ` +
            `most ${megabytes} MiB.`,
      'The loader sets aside memory for that much.',
    ),
    ...(archive.base === null
      ? []
      : [
          of(
            'files.archive.base',
            `Packs are read in the order of their names and later ones win; the game’s own ${archive.base} is ` +
              'never written.',
            'The game’s builder writes its own pack anew, and whatever was put into it is gone.',
          ),
        ]),
    manifest.writer === 'none'
      ? of('files.manifest', 'No list of files is asked.', 'The game reads whatever lies in its folders.')
      : of(
          'files.manifest',
          `Every file is listed with its size${manifest.checksums === 'none' ? '' : ' and SHA-256'} at ` +
            `${manifest.path}: ${written(manifest)}.`,
          'A file that was damaged on the way is known before it is read.',
        ),
    ...(slots
      ? [
          of(
            'slots',
            `Each item stands at one of ${slots.listed.length} listed slots, ${slots.described}, instead of ` +
              'what is there.',
            `${title} has no room for new things: its list is of fixed length.`,
          ),
        ]
      : []),
  ]
}
