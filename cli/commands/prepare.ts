import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { gameNamed } from '../game.ts'
import { bringIn, startFrom } from '../../core/crate/bring-in.ts'
import { gameName } from '../../core/crate/game-names.ts'
import { withSlots } from '../../core/crate/slots.ts'
import { questionsOf } from '../../core/crate/questions.ts'
import { newCrate, type Crate, type CrateItem } from '../../core/crate/schema.ts'
import { axisNameSchema, type AxisName } from '../../core/maths/axes.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { lengthUnits } from '../../core/item/units.ts'
import { sha256Hex } from '../../core/support/hashing.ts'
import { rankKinds } from '../../core/game/guess-kind.ts'
import { isImageFile } from '../../core/intake/images.ts'
import type { Question } from '../../core/questions/question.ts'
import { kindOf } from '../../core/game/load.ts'
import { worklistSchema, type WorklistEntry } from '../../core/worklist/entry.ts'
import { prepareItem } from '../../core/crate/prepare-item.ts'
import { memoryStore } from '../../core/worklist/result-store.ts'
import { runWorklist, type RunOptions, type RunProgress } from '../../core/worklist/run.ts'
import { parseCall, print, progressLine, required, type Call, type Command } from '../command.ts'
import { namesFolder, readBytes } from '../bytes.ts'
import { writeCrate } from '../crate-out.ts'
import { gatherSources, openCrate } from '../files.ts'
import { reportOnFiles } from './prepare-report.ts'

export const prepare: Command = {
  async run(words) {
    const call = parseCall(words, {
      rulebook: { type: 'string' },
      kind: { type: 'string' },
      name: { type: 'string' },
      preset: { type: 'string' },
      unit: { type: 'string' },
      up: { type: 'string' },
      forward: { type: 'string' },
      steps: { type: 'string' },
      out: { type: 'string' },
      report: { type: 'boolean' },
    })
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
    const { game, stock } = named
    const { rulebook } = game
    const asked = call.values['kind']
    const saidKind = typeof asked === 'string' ? kindOf(rulebook, asked) : null
    if (call.values['report'] === true)
      return reportOnFiles(call, named, saidKind?.id, { metresPerUnit: unitOf(call), up: axisOf(call, 'up') })
    const out = required(call, 'out')
    const steps = call.values['steps']
    if (steps !== undefined && steps !== 'none')
      throw new PlainError('only “none” is understood', '--steps', 'Leave it out to have a worklist proposed.')
    const name = typeof call.values['name'] === 'string' ? call.values['name'] : undefined
    const reading = { metresPerUnit: unitOf(call), up: axisOf(call, 'up'), forward: axisOf(call, 'forward') }
    const brought = await bringIn(
      gatherSources(call.positionals),
      saidKind?.id ?? rulebook.kinds[0].id,
      { ...reading, models: saidKind?.models },
      before?.crate.items.map(({ id }) => id) ?? [],
      name,
    )
    const crate: Crate = before?.crate ?? newCrate(name ?? brought[0].item.name, game, [])
    const sources = new Map<string, Uint8Array>(before?.sources)
    if (game.stock && stock) sources.set(game.stock.sha256, stock)
    const about = {
      rulebook,
      store: memoryStore(),
      onProgress: ({ title, fraction, doing }: RunProgress) =>
        progressLine(`${Math.round(fraction * 100)} % ${title} ${doing}`.trim()),
    }
    const failures: string[] = []
    const asking = new Map<string, Question[]>()
    for (const { item: read, document, files } of brought) {
      const kind = saidKind ?? rankKinds(document, rulebook, isImageFile(read.main))[0].kind
      const options: RunOptions = { ...about, kind }
      const item: CrateItem = { ...read, kind: kind.id, ...(saidKind ? { answers: { kind: kind.id } } : {}) }
      for (const { sha256, file } of files) sources.set(sha256, file.bytes)
      const start = await startFrom(
        item,
        document,
        files.map(({ file }) => file),
        game,
        async (sha256) => sources.get(sha256) ?? null,
      )
      const worklist = steps === 'none' ? [] : await worklistFor(call, start, options, gameName(item, rulebook))
      const result = await runWorklist(start, worklist, options)
      for (const outcome of result.outcomes)
        if (outcome.state === 'failed') failures.push(`${item.name}: ${outcome.message}`)
      // An item of that name is the one that is prepared anew.
      const there = crate.items.findIndex(({ name: known }) => known === item.name)
      const made: CrateItem = { ...item, id: crate.items[there]?.id ?? item.id, worklist }
      if (there < 0) crate.items.push(made)
      else crate.items[there] = made
      asking.set(
        made.id,
        questionsOf({ ...item, worklist }, document, rulebook).filter(({ answered }) => !answered),
      )
    }
    const bytes = writeCrate(out, { crate: withSlots(crate), sources })
    const json = {
      out,
      ...(bytes ? { bytes: bytes.length, sha256: sha256Hex(bytes) } : {}),
      failures,
      items: crate.items
        .filter(({ id }) => asking.has(id))
        .map((item) => ({
          name: item.name,
          kind: item.kind,
          steps: item.worklist.map(({ step, reason, parameters }) => ({ step, reason, parameters })),
          questions: (asking.get(item.id) ?? []).map(({ id, title, why, answers, chosen }) => ({
            id,
            title,
            why,
            chosen,
            answers: answers.map(({ id: answer, label, note }) => ({ id: answer, label, note })),
          })),
        })),
    }
    print(call, json, [
      ...json.items.flatMap((item) => [
        `${item.name} (${item.kind})`,
        ...item.steps.map((step) => `  ${step.step}: ${step.reason ?? ''}`),
        ...item.questions.map(
          ({ title, answers, chosen }) =>
            `  asked: ${title} ${answers.map(({ id, label }) => (id === chosen ? `[${label}, taken]` : label)).join(' / ')}`,
        ),
      ]),
      ...failures,
      bytes ? `${out}: ${bytes.length} bytes` : `${out}: ${plural(crate.items.length, 'item')}`,
    ])
    return failures.length > 0 ? 1 : 0
  },
}

async function worklistFor(
  call: Call,
  start: Parameters<typeof prepareItem>[0],
  options: RunOptions,
  itemName: string,
): Promise<WorklistEntry[]> {
  const preset = call.values['preset']
  if (typeof preset !== 'string') return (await prepareItem(start, options, { itemName })).worklist
  let data: unknown
  try {
    data = JSON.parse(new TextDecoder().decode(readBytes(preset)))
  } catch (error) {
    if (error instanceof PlainError) throw error
    throw new PlainError('it is not JSON', preset, 'A preset is a list of steps.')
  }
  const parsed = worklistSchema.safeParse(data)
  if (!parsed.success)
    throw new PlainError(
      `it is wrong at ${parsed.error.issues[0].path.join('.') || 'the top'}`,
      preset,
      'A preset is a list of {id, step, on, parameters, reason}.',
    )
  return parsed.data
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
