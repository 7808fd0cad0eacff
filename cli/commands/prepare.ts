import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { assertStock } from '../../core/crate/brought-game.ts'
import { gameNamed } from '../game.ts'
import type { BroughtGame } from '../../core/crate/brought-game.ts'
import { planItems } from '../../core/crate/plan-items.ts'
import type { Preset } from '../../core/crate/preset.ts'
import { readPresets } from '../../core/crate/preset.ts'
import { withSlots } from '../../core/crate/slots.ts'
import { newCrate, type Crate } from '../../core/crate/schema.ts'
import { axisNameSchema, type AxisName } from '../../core/maths/axes.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { lengthUnits } from '../../core/item/units.ts'
import { sha256Hex } from '../../core/support/hashing.ts'
import { kindOf } from '../../core/game/load.ts'
import { parseCall, print, required, type Call, type Command } from '../command.ts'
import { namesFolder, readBytes } from '../bytes.ts'
import { writeCrate } from '../crate-out.ts'
import { gatherSources, openCrate } from '../files.ts'
import { itemWorkers } from '../item-workers.ts'
import { prepareMany, putIntoCrate, type PrepareCall } from '../prepare-many.ts'
import { reportOnFiles } from './prepare-report.ts'

/** Words of a call that says how files become items. */
export const preparingWords = {
  rulebook: { type: 'string' },
  kind: { type: 'string' },
  name: { type: 'string' },
  preset: { type: 'string' },
  unit: { type: 'string' },
  up: { type: 'string' },
  forward: { type: 'string' },
  steps: { type: 'string' },
  split: { type: 'boolean' },
  out: { type: 'string' },
} as const

export const prepare: Command = {
  async run(words) {
    const call = parseCall(words, { ...preparingWords, report: { type: 'boolean' } })
    // What goes into a crate that is there is prepared for its game.
    const before = await crateThere(call.values['out'])
    const word = call.values['rulebook']
    if (before && typeof word === 'string' && (await gameNamed(word)).game.rulebook.id !== before.game.rulebook.id)
      throw new PlainError(
        `the crate there is for ${before.game.rulebook.title}`,
        String(call.values['out']),
        'Leave --rulebook out, or begin another crate.',
      )
    const named = before ?? (await gameNamed(required(call, 'rulebook')))
    assertStock(named)
    const said = saidIn(call, named, before?.crate.presets)
    if (call.values['report'] === true) return reportOnFiles(call, named, said.kind, said.reading)
    const out = required(call, 'out')
    const models = said.kind === undefined ? [] : kindOf(named.game.rulebook, said.kind).models
    const plan = planItems(gatherSources(call.positionals), models)
    const workers = itemWorkers(named, plan.length)
    const made = await prepareMany(plan, named, said, workers, before?.crate.items).finally(workers.close)
    const refused = made.flatMap((each) => each.refused ?? [])
    const prepared = made.flatMap((each) => each.prepared)
    if (prepared.length === 0)
      throw new PlainError('nothing of it can be prepared', call.positionals.join(', '), refused.join(' '))
    const crate: Crate = before?.crate ?? newCrate(said.name ?? prepared[0].item.name, named.game, [])
    const sources = new Map<string, Uint8Array>(before?.sources)
    if (named.game.stock && named.stock) sources.set(named.game.stock.sha256, named.stock)
    const placed = putIntoCrate(crate, sources, prepared)
    const bytes = writeCrate(out, { crate: withSlots(crate), sources })
    const failures = [...refused, ...prepared.flatMap((each) => each.failures)]
    const json = {
      out,
      ...(bytes ? { bytes: bytes.length, sha256: sha256Hex(bytes) } : {}),
      failures,
      items: placed.map(({ item, of: { questions } }) => ({
        name: item.name,
        kind: item.kind,
        steps: item.worklist.map(({ step, reason, parameters }) => ({ step, reason, parameters })),
        questions: questions.map(({ id, title, why, answers, chosen }) => ({
          id,
          title,
          why,
          chosen,
          answers: answers.map(({ id: answer, label, note }) => ({ id: answer, label, note })),
        })),
      })),
    }
    const each = json.items.length > MOST_TOLD_WHOLE ? inALine : inFull
    print(call, json, [
      ...json.items.flatMap(each),
      ...failures,
      bytes ? `${out}: ${bytes.length} bytes` : `${out}: ${plural(crate.items.length, 'item')}`,
      ...(json.items.length > 1 || refused.length > 0
        ? [`${plural(json.items.length, 'item')} prepared, ${plural(refused.length, 'file')} refused`]
        : []),
    ])
    return failures.length > 0 ? 1 : 0
  },
}

/** More items than this are told in a line each. */
const MOST_TOLD_WHOLE = 6

interface ToldItem {
  name: string
  kind: string
  steps: { step: string; reason: string | null }[]
  questions: { title: string; chosen: string; answers: { id: string; label: string }[] }[]
}

const inALine = ({ name, kind, steps, questions }: ToldItem): string[] => [
  `${name} (${kind}): ${plural(steps.length, 'step')}${questions.length > 0 ? `, ${plural(questions.length, 'question')} to look at` : ''}`,
]

const inFull = ({ name, kind, steps, questions }: ToldItem): string[] => [
  `${name} (${kind})`,
  ...steps.map(({ step, reason }) => `  ${step}: ${reason ?? ''}`),
  ...questions.map(
    ({ title, answers, chosen }) =>
      `  asked: ${title} ${answers.map(({ id, label }) => (id === chosen ? `[${label}, taken]` : label)).join(' / ')}`,
  ),
]

/**
 * What a call says of the files that it brings.
 * @param ownPresets presets of the crate that they go into, which stand behind those that are named
 * @throws PlainError when a word is wrong
 */
export function saidIn(call: Call, { game }: BroughtGame, ownPresets: readonly Preset[] = []): PrepareCall {
  const { kind, name, steps, preset, split } = call.values
  if (steps !== undefined && steps !== 'none')
    throw new PlainError('only “none” is understood', '--steps', 'Leave it out to have a worklist proposed.')
  const presets = [
    ...(typeof preset === 'string' ? readPresets(new TextDecoder().decode(readBytes(preset)), preset) : []),
    ...ownPresets,
  ]
  for (const { kind: asked } of presets) if (asked !== undefined) kindOf(game.rulebook, asked)
  return {
    ...(typeof kind === 'string' ? { kind: kindOf(game.rulebook, kind).id } : {}),
    ...(typeof name === 'string' ? { name } : {}),
    unprepared: steps === 'none',
    split: split === true,
    presets,
    reading: { metresPerUnit: unitOf(call), up: axisOf(call, 'up'), forward: axisOf(call, 'forward') },
  }
}

function unitOf(call: Call): number | undefined {
  const text = call.values['unit']
  if (typeof text !== 'string') return undefined
  const unit = lengthUnits.find((each) => each.id === text.toLowerCase())
  if (unit) return unit.metres
  throw new PlainError(
    `there is no unit “${text}”`,
    '--unit',
    `Units: ${lengthUnits.map((each) => each.id).join(', ')}.`,
  )
}

function axisOf(call: Call, option: 'up' | 'forward'): AxisName | undefined {
  const text = call.values[option]
  if (typeof text !== 'string') return undefined
  const parsed = axisNameSchema.safeParse(/^[+-]/.test(text) ? text.toLowerCase() : `+${text.toLowerCase()}`)
  if (parsed.success) return parsed.data
  throw new PlainError(`there is no axis “${text}”`, `--${option}`, 'Axes: x, y, z, -x, -y, -z.')
}

/** The crate folder that items are put into, with its game; null where a new crate is begun. */
async function crateThere(out: string | boolean | undefined) {
  if (typeof out !== 'string' || !namesFolder(out) || !existsSync(join(out, 'crate.json'))) return null
  const { crate, sources } = await openCrate(out)
  const game = { rulebook: crate.rulebook, stock: crate.stock }
  return { crate, sources, game, stock: (crate.stock && sources.get(crate.stock.sha256)) ?? null }
}
