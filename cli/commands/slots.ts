import { setSlot, withSlots } from '../../core/crate/slots.ts'
import { writeCrateFile } from '../../core/crate/file.ts'
import { findSlot, slotsFor } from '../../core/game/slots.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { writeBytes } from '../bytes.ts'
import { parseCall, print, type Command } from '../command.ts'
import { openCrate } from '../files.ts'

export const slots: Command = {
  async run(words) {
    const call = parseCall(words, {
      item: { type: 'string' },
      slot: { type: 'string' },
      out: { type: 'string' },
    })
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate', 'slots', 'Name a crate file or folder.')
    const { crate: read, sources } = await openCrate(call.positionals[0])
    const { rulebook } = read
    if (!rulebook.slots)
      throw new PlainError(`${rulebook.title} has no slots`, call.positionals[0], 'Each item gets a place of its own.')
    let crate = withSlots(read)
    const { item: name, slot, out } = call.values
    if (typeof slot === 'string' || typeof name === 'string') {
      if (typeof slot !== 'string' || typeof name !== 'string' || typeof out !== 'string')
        throw new PlainError('--item, --slot and --out go together', 'slots', 'Give all three.')
      const item = crate.items.find((each) => each.name === name || each.id === name)
      if (!item)
        throw new PlainError(
          `it has no item “${name}”`,
          call.positionals[0],
          `Its items: ${crate.items.map((each) => each.name).join(', ')}.`,
        )
      crate = setSlot(crate, item.id, slot)
    }
    if (typeof out === 'string') writeBytes(out, writeCrateFile({ crate, sources }))
    const given = crate.items.map((item) => ({
      item: item.name,
      kind: item.kind,
      slot: item.slot ?? null,
      instead: item.slot === undefined ? null : (findSlot(rulebook, item.slot)?.title ?? null),
    }))
    const taken = new Set(crate.items.map((item) => item.slot))
    const free = rulebook.kinds.map(({ id }) => ({
      kind: id,
      slots: slotsFor(rulebook, id)
        .filter((each) => !taken.has(each.slot))
        .map((each) => each.slot),
    }))
    print(call, { items: given, free }, [
      ...given.map((each) =>
        each.slot === null
          ? `${'none'.padEnd(8)}${each.item} (${each.kind}): all its slots are given`
          : `${each.slot.padEnd(8)}${each.item} (${each.kind}) instead of ${each.instead}`,
      ),
      ...free.map(({ kind, slots }) => `free for a ${kind}: ${slots.length === 0 ? 'none' : slots.join(', ')}`),
    ])
    return given.some((each) => each.slot === null) ? 1 : 0
  },
}
