import { touchReport, type TouchReport } from '../../core/crate/touch-test.ts'
import { evaluateItem } from '../../core/crate/evaluate.ts'
import { kindOf } from '../../core/game/load.ts'
import { memoryStore } from '../../core/worklist/result-store.ts'
import { parseCall, print, type Command } from '../command.ts'
import { openCrate } from '../files.ts'
import { PlainError } from '../../core/support/plain-error.ts'

/** Fit tests of a crate's items: openings, bodies, solids, rest. */
export const touchTest: Command = {
  async run(words) {
    const call = parseCall(words, {})
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate', 'touch-test', 'Name a crate file or folder.')
    const { crate, sources } = await openCrate(call.positionals[0])
    const { rulebook } = crate
    const items: (TouchReport & { name: string; kind: string })[] = []
    for (const item of crate.items) {
      const { document } = await evaluateItem(item, crate, {
        store: memoryStore(),
        bytesOf: async (sha256) => sources.get(sha256) ?? null,
      })
      items.push({
        name: item.name,
        kind: item.kind,
        ...(await touchReport(document, rulebook, kindOf(rulebook, item.kind))),
      })
    }
    const closed = items.reduce((sum, item) => sum + item.openings.filter(({ passes }) => !passes).length, 0)
    print(
      call,
      { rulebook: rulebook.id, unit: rulebook.space.unit.name, items, closed },
      items.flatMap((item) => linesOf(item, rulebook.space.unit.plural)),
    )
    return closed > 0 ? 1 : 0
  },
}

const short = (value: number): string => String(Number(value.toFixed(2)))

function linesOf(item: TouchReport & { name: string; kind: string }, unit: string): string[] {
  const lines = [`${item.name} (${item.kind}): ${item.solids.length} solids`]
  for (const { width, height, passes } of item.openings)
    lines.push(
      `  a way through, ${short(width)}${height === null ? ' wide' : ` × ${short(height)}`} ${unit}: ` +
        `${passes ? 'open to the figure' : 'closed by the solids'}`,
    )
  for (const { title, standsOff, getsInto } of item.bodies)
    lines.push(`  ${title}: stands off by ${short(standsOff)}, gets in by ${short(getsInto)} ${unit} at worst`)
  for (const { name, shape, surface, outside, inside, massKilograms } of item.solids)
    lines.push(
      `  ${name}: ${shape} of ` +
        `${surface ?? 'no surface kind'}${massKilograms === null ? '' : `, ${short(massKilograms)} kg`}; ` +
        `${short(outside)} outside, ${short(inside)} inside what is seen`,
    )
  if (item.mass)
    lines.push(`  weighs ${short(item.mass.kilograms)} kg, centre of mass ${item.mass.centre.map(short).join(', ')}`)
  if (item.rest)
    lines.push(
      `  put down: ${item.rest.put.verdict}; dropped from ${short(item.rest.dropped.from)} ${unit}: ` +
        `${item.rest.dropped.verdict}${item.rest.dropped.seconds === null ? '' : ` after ${short(item.rest.dropped.seconds)} s`}`,
    )
  return lines
}
