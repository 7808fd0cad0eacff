import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { slotsFor } from '../game/slots.ts'
import { plainItem } from '../test-support/crate-items.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { applyCommand, type Command } from './commands.ts'
import { newCrate, type Crate } from './schema.ts'

const keep = rulebookById('hollin-keep')
const kinds = keep.kinds.map(({ id }) => id)
const item = (id: string, kind = 'furnishing') => plainItem({ id, name: id, kind })
const slotsOf = (crate: Crate): Record<string, string | undefined> =>
  Object.fromEntries(crate.items.map((each) => [each.id, each.slot]))
const begun = (...ids: string[]): Crate =>
  applyCommand(newCrate('cellar', { rulebook: keep, stock: null }, []), {
    do: 'add-items',
    items: ids.map((id) => item(id)),
  })

describe('slots', () => {
  it('are given in the order of the list, and stay when another item goes or comes', () => {
    const crate = begun('table', 'bench', 'chest')
    expect(slotsOf(crate)).toEqual({ table: 'k-000', bench: 'k-001', chest: 'k-002' })
    const without = applyCommand(crate, { do: 'remove-item', item: 'table' })
    expect(slotsOf(without)).toEqual({ bench: 'k-001', chest: 'k-002' })
    const again = applyCommand(without, { do: 'add-items', items: [item('barrel')] })
    expect(slotsOf(again)).toEqual({ bench: 'k-001', chest: 'k-002', barrel: 'k-000' })
  })

  it('change places when one is chosen that another has', () => {
    const crate = applyCommand(begun('table', 'bench'), { do: 'set-slot', item: 'table', slot: 'k-001' })
    expect(slotsOf(crate)).toEqual({ table: 'k-001', bench: 'k-000' })
  })

  it('are of the item’s kind: another is refused, and another kind gets another', () => {
    const crate = begun('table')
    expect(() => applyCommand(crate, { do: 'set-slot', item: 'table', slot: 'k-100' })).toThrow(
      'a furnishing cannot stand at “k-100”',
    )
    expect(() => applyCommand(crate, { do: 'set-slot', item: 'gone', slot: 'k-001' })).toThrow('no longer there')
    const hung = applyCommand(crate, { do: 'set-kind', item: 'table', kind: 'hanging' })
    expect(slotsOf(hung)).toEqual({ table: 'k-100' })
  })

  it('are left to none in a game without them, and come back with the game that has them', () => {
    const crate = begun('table')
    const moved = applyCommand(crate, { do: 'set-game', rulebook: tarnAndTiller, stock: null })
    expect(applyCommand(moved, { do: 'rename-crate', name: 'landing' }).items[0].slot).toBe('k-000')
    expect(slotsOf(applyCommand(moved, { do: 'set-game', rulebook: keep, stock: null }))).toEqual({ table: 'k-000' })
  })

  it('end where all are given: the last item has none', () => {
    const trinkets = slotsFor(keep, 'trinket').length
    const crate = applyCommand(newCrate('shelf', { rulebook: keep, stock: null }, []), {
      do: 'add-items',
      items: Array.from({ length: trinkets + 1 }, (_, number) => item(`mug-${number}`, 'trinket')),
    })
    expect(crate.items.filter(({ slot }) => slot === undefined).map(({ id }) => id)).toEqual([`mug-${trinkets}`])
  })

  it('are never given twice nor across kinds, whatever is done', () => {
    const command: fc.Arbitrary<Command> = fc.oneof(
      fc.record({
        do: fc.constant('add-items' as const),
        items: fc.constantFrom(...kinds).map((kind) => [item('a', kind)]),
      }),
      fc.record({ do: fc.constant('remove-item' as const), item: fc.constantFrom('a', 'a-2', 'a-3') }),
      fc.record({
        do: fc.constant('set-kind' as const),
        item: fc.constantFrom('a', 'a-2', 'a-3'),
        kind: fc.constantFrom(...kinds),
      }),
      fc.record({
        do: fc.constant('set-slot' as const),
        item: fc.constantFrom('a', 'a-2', 'a-3'),
        slot: fc.constantFrom('k-000', 'k-001', 'k-100', 'k-200', 'k-999'),
      }),
    )
    fc.assert(
      fc.property(fc.array(command, { maxLength: 25 }), (commands) => {
        let crate = newCrate('any', { rulebook: keep, stock: null }, [])
        for (const each of commands)
          try {
            crate = applyCommand(crate, each)
          } catch {
            continue
          }
        const given = crate.items.flatMap(({ slot }) => slot ?? [])
        expect(new Set(given).size).toBe(given.length)
        for (const { kind, slot } of crate.items)
          expect(slotsFor(keep, kind).some((each) => each.slot === slot)).toBe(true)
      }),
      { numRuns: 80 },
    )
  })
})
