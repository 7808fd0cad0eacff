import { describe, expect, it } from 'vitest'
import { builtInRulebooks } from '../game/load.ts'
import type { Kind } from '../game/schema.ts'
import { copyDocument } from '../item/io.ts'
import { stages } from '../support/stages.ts'
import { stepById } from '../steps/registry.ts'
import { NOT_WORDS, oddItems } from '../test-support/odd-items.ts'
import { laidOver } from '../support/json-value.ts'
import { checkItem } from './registry.ts'
import { severities } from './rule.ts'

// What the rules say holds on any item, for each kind of each game that ships.

const games = builtInRulebooks().map((rulebook) => ({ game: rulebook.id, rulebook }))
const items = oddItems.map(([what, make]) => ({ what, document: make() }))
const itemsOf = (kind: Kind) => items.map(({ what, document }) => ({ what, document, kind }))

describe.each(games)('in $game', ({ rulebook }) => {
  const checked = rulebook.kinds
    .flatMap(itemsOf)
    .map((each) => ({ ...each, ...checkItem({ document: each.document, rulebook, kind: each.kind }) }))

  it('a finding says in whole words what, where, how much and why', () => {
    for (const { what, kind, findings } of checked) {
      for (const finding of findings) {
        const place = `${what} as ${kind.id}: ${finding.rule}`
        expect(severities, place).toContain(finding.severity)
        expect(stages, place).toContain(finding.stage)
        expect(finding.title, place).not.toBe('')
        expect(finding.message, place).toMatch(/\S+ \S+/)
        expect(finding.why, place).toMatch(/[.!?]$/)
        for (const text of [finding.title, finding.message, finding.why, finding.value, finding.limit])
          expect(text, place).not.toMatch(NOT_WORDS)
      }
    }
  })

  it('a finding shows places that are there, in numbers', () => {
    for (const { what, kind, findings } of checked) {
      for (const { rule, place } of findings) {
        const numbers = [...place.spots.flat(), ...(place.bounds ? [...place.bounds.min, ...place.bounds.max] : [])]
        expect(
          numbers.filter((value) => !Number.isFinite(value)),
          `${what} as ${kind.id}: ${rule}`,
        ).toEqual([])
      }
    }
  })

  it('a gauge has a measure and a limit', () => {
    for (const { what, kind, gauges } of checked) {
      for (const { id, value, limit, least } of gauges) {
        const place = `${what} as ${kind.id}: ${id}`
        expect(Number.isFinite(value) && value >= 0, place).toBe(true)
        expect(limit === null || limit >= least, place).toBe(true)
      }
      expect(new Set(gauges.map(({ id }) => id)).size, `${what} as ${kind.id}`).toBe(gauges.length)
    }
  })

  it('the same item is told the same, and stays as it was', () => {
    for (const { document, kind, findings } of checked.filter((_, number) => number % 7 === 0))
      expect(checkItem({ document: copyDocument(document), rulebook, kind }).findings).toEqual(findings)
  })

  it('a mend is a step that takes the settings which the finding gives it', () => {
    const seen = new Set<string>()
    for (const { what, document, kind, findings } of checked) {
      for (const { rule, mend } of findings) {
        const asked = JSON.stringify([what, mend?.step, mend?.parameters])
        if (!mend || seen.has(asked)) continue
        seen.add(asked)
        const step = stepById(mend.step)
        const defaults = step.defaults({ document, rulebook, kind, source: document, images: [], hosts: [] })
        const parameters = laidOver(defaults as Record<string, unknown>, mend.parameters)
        expect(step.parameters.safeParse(parameters).error?.issues, `${what} as ${kind.id}: ${rule}`).toBeUndefined()
        expect(mend.label, rule).not.toMatch(NOT_WORDS)
      }
    }
  })
})
