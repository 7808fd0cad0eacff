import type { Judgement } from './judge.ts'

/** What a result may differ by, and what its report has to say where it differs more. */
interface Measure {
  name: string
  /** How far beyond what is allowed; null where it is not measured, 0 or less where it holds. */
  beyond: (judgement: Judgement) => number | null
  /** Sentences of the report that own up to it. */
  saidBy: RegExp
}

/** Lengths as shares of the longest side. */
const SURFACE = 0.001
const VOLUME = 0.01
/** Motion is sampled at the game's own rate. */
const MOTION = 0.005
const SHADING = 0.02
const BYTES = 4

const bytes = (name: keyof NonNullable<Judgement['difference']>, saidBy: RegExp): Measure => ({
  name,
  saidBy,
  beyond: ({ difference }) =>
    difference === null || difference[name] === null ? null : (difference[name] as number) - BYTES,
})

const missing = /which was not brought|cannot be read|is missing/

const measures: readonly Measure[] = [
  {
    name: 'lost',
    beyond: ({ difference, statedShift }) => difference && difference.lost - SURFACE - statedShift,
    saidBy:
      /was left out|were left out|triangles? without area|narrower than the distance|hidden|left out|outline|where bones held|does not stand as|do not stand as/,
  },
  {
    name: 'added',
    beyond: ({ difference, statedShift }) => difference && difference.added - SURFACE - statedShift,
    saidBy: /holes? (was|were) closed|back faces were made|where bones held/,
  },
  {
    name: 'volume',
    beyond: ({ difference, statedShift }) => difference && Math.abs(difference.volume) - VOLUME - statedShift * 6,
    saidBy: /triangles turned|back faces were made|was left out|were left out/,
  },
  {
    name: 'shading',
    beyond: ({ difference }) =>
      (difference?.shading ?? null) === null ? null : (difference?.shading as number) - SHADING,
    saidBy: /got normals|triangles turned|back faces were made|light falls more than/,
  },
  {
    name: 'motion',
    beyond: ({ motion, statedShift }) => (motion === null ? null : motion - MOTION - statedShift),
    saidBy: /was left out|were left out|keys? (was|were)|the error was let grow|is too fast in/,
  },
  bytes(
    'colour',
    new RegExp(`${missing.source}|glows in another colour|ha(?:s|ve|d) no material|colours of its corners`),
  ),
  bytes('opacity', new RegExp(`${missing.source}`)),
  bytes('roughness', missing),
  bytes('metalness', new RegExp(`${missing.source}|ha(?:s|ve|d) no material`)),
  bytes('occlusion', missing),
  bytes('glow', new RegExp(`${missing.source}|glows in another colour`)),
]

export interface Verdict {
  /** Measures that hold, that differ and are owned up to, and that differ in silence. */
  told: string[]
  silent: string[]
}

/** Whether a result is its source, or says what it gave up. */
export function verdictOf(judgement: Judgement): Verdict {
  const verdict: Verdict = { told: [], silent: [] }
  for (const { name, beyond, saidBy } of measures) {
    const by = beyond(judgement)
    if (by === null || by <= 0) continue
    const said = judgement.report.some((line) => saidBy.test(line))
    verdict[said ? 'told' : 'silent'].push(`${name} ${shown(judgement, name)}`)
  }
  if (judgement.validatorErrors.length > 0)
    verdict.silent.push(`${judgement.validatorErrors.length} errors of the validator`)
  const { item, pack, loader } = judgement.opinions
  if (item !== loader || pack !== loader)
    verdict.silent.push(`check says ${item}, of the pack ${pack}, the loader ${loader}`)
  return verdict
}

function shown({ difference, motion }: Judgement, name: string): string {
  if (name === 'motion') return `${((motion ?? 0) * 100).toFixed(2)} %`
  const value = (difference as unknown as Record<string, number>)[name]
  return ['lost', 'added', 'volume', 'shading'].includes(name) ? `${(value * 100).toFixed(2)} %` : value.toFixed(1)
}
