import { doubtsAbout } from '../../core/game/doubts.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { builtInRulebooks, kindOf } from '../../core/game/load.ts'
import { sentencesOf } from '../../core/game/sentences/index.ts'
import { rulebookDifference } from '../../core/game/sentences/difference.ts'
import type { Rulebook } from '../../core/game/schema.ts'
import { plural } from '../../core/support/wording.ts'
import type { RuleSentence } from '../../core/game/sentences/sentence.ts'
import { gameWith, type BroughtGame } from '../../core/crate/brought-game.ts'
import { rulebookText, startRulebookFrom, writeGameFile } from '../../core/crate/game-file.ts'
import { writeBytes } from '../bytes.ts'
import { parseCall, print, progressLine, type Call, type Command } from '../command.ts'
import { gameNamed } from '../game.ts'

export const rulebook: Command = {
  async run(words) {
    const call = parseCall(words, {
      rules: { type: 'boolean' },
      kind: { type: 'string' },
      find: { type: 'string' },
      against: { type: 'string' },
      try: { type: 'string' },
      out: { type: 'string' },
      as: { type: 'string' },
      title: { type: 'string' },
    })
    if (call.positionals.length !== 1)
      throw new PlainError(
        'it takes one rulebook',
        'rulebook',
        `Built in: ${builtInRulebooks()
          .map((each) => each.id)
          .join(', ')}.`,
      )
    const [name] = call.positionals
    const brought = await gameNamed(name)
    const found = brought.game.rulebook
    const { rules, kind, find, against, out } = call.values
    if (typeof out === 'string') return writeOut(call, brought, out)
    const tried = call.values['try']
    if (typeof tried === 'string') return tryOn(call, found, tried)
    if (typeof against === 'string') {
      const other = (await gameNamed(against)).game.rulebook
      const changes = rulebookDifference(found, other)
      print(call, { from: versionOf(found), to: versionOf(other), changes }, [
        `${versionOf(found)} → ${versionOf(other)}: ${plural(changes.length, 'demand')} otherwise`,
        ...changes.map(
          ({ kinds, before, after }) =>
            `  ${kinds === null ? '' : `${kinds.join(', ')}: `}${before ?? '(not asked)'} → ${after ?? '(not asked)'}`,
        ),
      ])
      return 0
    }
    if (rules === true || kind !== undefined || find !== undefined) {
      const sentences = sentencesOf(found, {
        kind: typeof kind === 'string' ? kindOf(found, kind).id : undefined,
        words: typeof find === 'string' ? find : undefined,
      })
      print(call, { rules: sentences }, rulesForPeople(sentences))
      return 0
    }
    const isFile = !builtInRulebooks().some((known) => known.id === name)
    const text = JSON.stringify(found, null, 2)
    print(
      call,
      found,
      isFile
        ? [
            `${name} is a valid rulebook: ${found.title} ${found.version}, ${plural(found.kinds.length, 'kind')}.`,
            ...doubtsAbout(found).map(({ path, message }) => `  doubtful at ${path.join('.')}: ${message}`),
          ]
        : [text],
    )
    return 0
  },
}

/** Writes a rulebook as a file, or one that is begun from it. */
function writeOut(call: Call, brought: BroughtGame, out: string): number {
  const { as: id, title } = call.values
  const begun =
    typeof id === 'string'
      ? gameWith(startRulebookFrom(brought.game.rulebook, id, typeof title === 'string' ? title : id), null)
      : brought
  const { rulebook: written } = begun.game
  const isJson = out.toLowerCase().endsWith('.json')
  const bytes = isJson ? new TextEncoder().encode(rulebookText(written)) : writeGameFile(begun)
  writeBytes(out, bytes)
  const withoutStock = isJson && begun.stock !== null
  print(
    call,
    { out, id: written.id, title: written.title, bytes: bytes.length, stock: !isJson && begun.stock !== null },
    [
      `${out}: ${versionOf(written)}, ${bytes.length} bytes`,
      ...(withoutStock ? ['What the game has in stock is not in it: name a .zip for that.'] : []),
    ],
  )
  return 0
}

/** Which findings come and go in a crate with a rulebook. */
async function tryOn(call: Call, rulebook: Rulebook, path: string): Promise<number> {
  // All of the program is loaded where a crate is run, and not to print a rulebook.
  const [{ openCrate }, { tryRulebook }, { noStore }] = await Promise.all([
    import('../files.ts'),
    import('../../core/crate/rulebook-trial.ts'),
    import('../../core/worklist/result-store.ts'),
  ])
  const { crate, sources } = await openCrate(path)
  const items = await tryRulebook(crate, rulebook, {
    store: noStore,
    bytesOf: async (sha256) => sources.get(sha256) ?? null,
    onProgress: ({ title, fraction }) => progressLine(`${Math.round(fraction * 100)} % ${title}`),
  })
  print(
    call,
    { from: versionOf(crate.rulebook), to: versionOf(rulebook), items },
    items.flatMap(({ name, more, less }) => [
      `${name}: ${plural(more.length, 'finding')} more, ${less.length} less`,
      ...more.map(({ severity, message }) => `  + ${severity.padEnd(6)} ${message}`),
      ...less.map(({ severity, message }) => `  − ${severity.padEnd(6)} ${message}`),
    ]),
  )
  return items.some(({ more }) => more.some(({ severity }) => severity === 'blocks')) ? 1 : 0
}

const versionOf = ({ title, version }: Rulebook): string => `${title} ${version}`

const rulesForPeople = (sentences: readonly RuleSentence[]): string[] =>
  sentences.length === 0
    ? ['No rule says that.']
    : sentences.flatMap(({ topic, kinds, sentence, why }, index) => [
        ...(sentences[index - 1]?.topic === topic ? [] : [topic]),
        `  ${kinds === null ? '' : `${kinds.join(', ')}: `}${sentence} ${why}`,
      ])
