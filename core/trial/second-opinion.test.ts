import { readdirSync, readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { copyDocument } from '../item/io.ts'
import { packItems } from '../pack/pack-crate.ts'
import { rulebookSchema, type Kind } from '../game/schema.ts'
import { checkItem } from '../rules/registry.ts'
import { prepareDemo, tarnAndTiller, type PreparedItem } from '../test-support/prepared-gate.ts'
import { loadPack } from './load-pack.ts'
import type { Spoiled } from '../test-support/spoiled/item-changes.ts'
import { meshSpoilers } from '../test-support/spoiled/mesh-rule-spoilers.ts'
import { nameSpoilers } from '../test-support/spoiled/name-rule-spoilers.ts'

let gate: PreparedItem
beforeAll(async () => {
  gate = await prepareDemo('boathouse_gate', 'prop')
})

async function judge(spoil: (spoiled: Spoiled) => void | Promise<void>) {
  const rulebook = rulebookSchema.parse(structuredClone(tarnAndTiller))
  const kind = rulebook.kinds.find((each) => each.id === 'prop') as Kind
  const document = copyDocument(gate.result.document)
  // Packing tight takes longest, and is tried elsewhere.
  rulebook.files.archive.writer = 'zip-stored'
  await spoil({ document, rulebook, kind })
  const { findings } = checkItem({ document, rulebook, kind })
  const pack = await packItems([{ name: 'boathouse_gate', kind, document }], rulebook, 'spoiled')
  return { findings, trial: loadPack(pack.bytes, rulebook) }
}

const spoilers = [...meshSpoilers, ...nameSpoilers]

describe('the loader as a second opinion', () => {
  it('is silent about an item that only has notes', async () => {
    const { findings, trial } = await judge(() => undefined)
    expect(findings.length).toBeGreaterThan(0)
    expect(findings.every((finding) => finding.severity === 'note')).toBe(true)
    expect(trial.log.filter((line) => line.level !== 'told')).toEqual([])
  })

  it.each(spoilers)('agrees about $rule, which $severity', async ({ rule, severity, spoil }) => {
    const { findings, trial } = await judge(spoil)
    expect(findings.find((finding) => finding.rule === rule)?.severity).toBe(severity)
    expect(trial.loads).toBe(!findings.some((finding) => finding.severity === 'blocks'))
    // What is refused may draw further complaints after it; what loads complains exactly when something is risky.
    if (trial.loads)
      expect(trial.log.some((line) => line.level === 'complaint')).toBe(
        findings.some((finding) => finding.severity === 'risky'),
      )
  })

  it('has a spoiled pack for every rule there is, but for the notes', () => {
    const written = ['../rules/', '../game/catalogue/'].flatMap((path) => {
      const folder = new URL(path, import.meta.url)
      return readdirSync(folder, { recursive: true })
        .map(String)
        .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
        .flatMap((file) =>
          [...readFileSync(new URL(file, folder), 'utf8').matchAll(/rule: '([a-z-]+)'/g)].map((match) => match[1]),
        )
    })
    const notes = [
      'polygons-left',
      'axes-not-turned',
      'unit-not-scaled',
      'texture-path',
      'texture-unreadable',
      'stray',
      'no-outside',
      'double-triangles',
      'slivers',
      'crowded-edges',
      'holes',
      'one-node',
      'thin-pieces',
      'shadow-open',
      'shadow-outside',
      'flag-and-image',
      'older-map-under',
      'look-part-missing',
      'models-unlike',
      'solid-drawn',
      'solid-unlike',
      'solid-stands-out',
      'level-seen',
      'bend-angular',
      'marker-left-behind',
      'clip-lost-target',
      'entry-unusual',
      'held-elsewhere',
      'rest-pose',
      'runs-into-host',
      'not-carried',
      'given-up',
    ]
    // What a gate or this game does not have is spoiled where it is: keep-packs, parish-packs, motion-packs,
    // bones-packs.
    const ofOthers = [
      // What an entry says: see entry/entry-packs.test.ts.
      'entry-alike',
      'entry-id-taken',
      'entry-misplaced',
      'entry-missing',
      'entry-row-look',
      'entry-row-missing',
      'entry-row-twice',
      'entry-type',
      'event-to',
      'entry-unknown',
      'event-circle',
      'event-never',
      'event-nothing',
      'event-twice',
      'events-too-many',
      'like-kind',
      'like-missing',
      'like-remains',
      'like-solids',
      'like-sound',
      'like-unknown',
      // Level geometry: see ground-packs.test.ts.
      'edge-too-fine',
      'body-unknown',
      'body-open',
      'body-inside-out',
      'hollow-outward',
      'hollow-cuts-nothing',
      // What faces the viewer: see facing-packs.test.ts.
      'facing-turns',
      'facing-flat',
      'facing-front',
      'facing-pivot',
      'facing-height',
      'facing-shadow',
      'clip-key-rate',
      'clip-too-long',
      'clip-starts-late',
      'loop-open',
      'key-count',
      'clips-fight',
      'attach-inside',
      'attach-untold',
      'attach-wide',
      'attach-facing-in',
      'bones-missing',
      'bone-alone',
      'bone-shared',
      'bent-below-bone',
      'marker-count',
      'marker-height',
      'marker-below',
      'marker-rides',
      'changes-nothing',
      'group-missing',
      'group-without-motion',
      'group-moves',
      'group-not-told',
      'backdrop-solid',
      'section-count',
      'slot-missing',
      'slot-kind',
      'half-block-count',
      'half-block-size',
      'half-block-accuracy',
      'tray-count',
      'tray-finish',
    ]
    expect([...new Set(written)].sort()).toEqual([...spoilers.map((each) => each.rule), ...notes, ...ofOthers].sort())
  })
})
