import { formatCount } from '../../support/wording.ts'
import type { MapRole } from '../schema.ts'
import { ofKinds, type RuleSentence, type SentencesOf } from './sentence.ts'

const channelWords = (role: MapRole): string =>
  (['r', 'g', 'b', 'a'] as const)
    .flatMap((channel) =>
      role.channels[channel] === null ? [] : [`${channel.toUpperCase()} ${role.channels[channel]}`],
    )
    .join(', ')

/**
 * Maps and materials.
 * @example const fields = surfaceSentences(rulebook).map(({ field }) => field)
 */
export const surfaceSentences: SentencesOf = (rulebook) => {
  const { maps, materials } = rulebook
  const of = (field: string, sentence: string, why: string): RuleSentence => ({
    topic: 'surface',
    field,
    kinds: null,
    sentence,
    why,
  })
  return [
    ...(maps.roles.length === 0
      ? [of('maps', 'It reads no maps.', 'What things show is a finish and a tint.')]
      : [
          of(
            'maps',
            `Maps have sides of ${maps.smallestPixels} to ${formatCount(maps.largestPixels)} ` +
              `pixels${maps.powersOfTwo ? ', powers of two' : ''}, up to ${maps.widestAspect} : ` +
              `1${maps.mipmaps === 'all' ? ', with all mipmaps' : maps.mipmaps === 'none' ? ', without mipmaps' : ''}.`,
            'The card lays pictures out in such sizes, and draws far things from the smaller ones.',
          ),
        ]),
    ...(materials.tinted
      ? [of('materials.tinted', 'A look gives each material one tint, as #rrggbb.', 'A finish is dyed as a whole.')]
      : []),
    ...maps.roles.map((role) =>
      of(
        `maps.roles.${role.role}`,
        `${role.title}: ${channelWords(role)}; ` +
          `${role.colourSpace === 'srgb' ? 'sRGB' : 'data'}${role.preferred === 'none' ? ', plain pixels' : `, ${role.codecs.map((codec) => codec.toUpperCase()).join(' or ')}`}${role.normalY === null ? '' : `, Y ${role.normalY}`}.`,
        'Each channel is read as what it stands for, whatever was meant.',
      ),
    ),
    of(
      'materials.largestCount',
      `At most ${materials.largestCount} materials.`,
      'Each is drawn by itself, and each change of material costs time.',
    ),
    of(
      'materials.surfaces',
      `A material is made of ${materials.surfaces.map(({ name }) => name).join(', ')}.`,
      'How it sounds, slides and weighs hangs on it.',
    ),
    ...materials.flags.map(({ name, meaning }) =>
      of(
        `materials.flags.${name}`,
        `The flag ${name}: ${meaning.charAt(0).toLowerCase()}${meaning.slice(1)}`,
        'It is drawn as its flags say, and not as its file does.',
      ),
    ),
    ...materials.shadingModels.map(({ name, title, requires, forbids, flag }) =>
      of(
        `materials.shadingModels.${name}`,
        `Shading ${name}, ${title.charAt(0).toLowerCase()}${title.slice(1)}: needs ` +
          `${requires.join(', ') || 'no map'}${forbids.length > 0 ? `, takes no ${forbids.join(' and no ')}` : ''}${flag === null ? '' : `; asked for by the flag ${flag}`}.`,
        'A map that the shading does not know is memory lost, and one that it misses is black.',
      ),
    ),
    ...ofKinds(rulebook, 'surface', 'textureMemoryBytes', 'All its maps lie on the card at once.', (kind) => {
      const megabytes = kind.textureMemoryBytes / 1024 / 1024
      if (maps.roles.length === 0) return null
      return `At most ${megabytes < 1 ? megabytes.toFixed(1) : Number(megabytes.toFixed(1))} MB of maps.`
    }),
  ]
}
