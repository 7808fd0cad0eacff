import type { Rulebook, Kind } from '../game/schema.ts'
import { readPartList } from '../pack/openers/part-list-file.ts'
import type { Finding, Gauge } from '../rules/rule.ts'
import { formatCount, formatLength } from '../support/wording.ts'

/**
 * Findings about an item that its file tells better: what was read of it is put together again, not built of blocks.
 */
export const toldByPartList: ReadonlySet<string> = new Set([
  'half-block-count',
  'half-block-size',
  'half-block-accuracy',
])

/**
 * What is wrong with a list of parts as a file: how many half-blocks and trays it has, how small they are.
 * @example findings.push(...checkPartListFile(bytes, rulebook, kind, fault))
 */
export function checkPartListFile(
  bytes: Uint8Array,
  { halfBlocks }: Rulebook,
  { mesh }: Kind,
  fault: (limit: string, message: string) => Finding,
): Finding[] {
  if (!halfBlocks) return []
  const trays = readPartList(bytes, halfBlocks)
  const findings: Finding[] = []
  const count = trays.reduce((sum, { blocks }) => sum + blocks.length, 0)
  const most = mesh?.halfBlocks ?? Infinity
  if (count > most)
    findings.push(fault(formatCount(most), `${formatCount(count)} half-blocks; ${formatCount(most)} are read`))
  for (const { tray, blocks } of trays) {
    const shortest = blocks.reduce((least, { size }) => Math.min(least, ...size), Infinity)
    if (shortest < halfBlocks.shortestEdge)
      findings.push(
        fault(
          String(halfBlocks.shortestEdge),
          `A half-block of ${tray} has a side of ${formatLength(shortest)}; ${halfBlocks.shortestEdge} is the least`,
        ),
      )
    if (blocks.length === 0) findings.push(fault('half-blocks', `The tray ${tray} is empty`))
  }
  return findings
}

/**
 * The gauge of half-blocks as the file has them.
 * @example const gauges = report.gauges.map((gauge) => gaugeOfPartList(gauge, bytes, rulebook))
 */
export const gaugeOfPartList = (gauge: Gauge, bytes: Uint8Array, { halfBlocks }: Rulebook): Gauge =>
  gauge.id === 'half-blocks' && halfBlocks
    ? { ...gauge, value: readPartList(bytes, halfBlocks).reduce((sum, { blocks }) => sum + blocks.length, 0) }
    : gauge
