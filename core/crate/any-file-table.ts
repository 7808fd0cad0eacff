import { z } from 'zod'

/** What the table tells of an item that was tried; of `tryAlone`, or of a report that was written as JSON. */
const triedSchema = z.object({
  kind: z.string(),
  triangles: z.number().nonnegative(),
  parts: z.number().nonnegative(),
  materials: z.number().nonnegative(),
  largestMapPixels: z.number().nonnegative(),
  worklist: z.array(z.unknown()),
  seconds: z.number().nonnegative(),
  loads: z.boolean(),
  reason: z.string().nullable(),
})

const triedFileSchema = z.union([
  z.object({ file: z.string(), refused: z.string() }),
  z.object({ file: z.string(), tried: triedSchema }),
])

type TriedRow = z.infer<typeof triedSchema>

/** One mesh file that was tried: what came of it, or why it could not be read. */
export type TriedFile = z.infer<typeof triedFileSchema>

/** What `prepare … --report --json` prints. */
export const reportSchema = z.object({ files: z.array(triedFileSchema), summary: z.string() })

/** For files with larger maps no time is set. */
const LARGEST_TIMED_MAP = 1024

/** What a file may take: three seconds, and one for each 10,000 triangles. */
export const secondsAllowed = (triangles: number): number => 3 + triangles / 10_000

/** Whether a file took longer than it may; for one with larger maps no time is set. */
export const isLate = ({ seconds, triangles, largestMapPixels }: TriedRow): boolean =>
  largestMapPixels <= LARGEST_TIMED_MAP && seconds > secondsAllowed(triangles)

/**
 * The share of the files that can be read whose pack loads, 0 to 1; 1 where there is none.
 * @example if (shareThatLoads(files) < 0.97) process.exitCode = 1
 */
export function shareThatLoads(files: readonly TriedFile[]): number {
  const read = files.flatMap((each) => ('tried' in each ? [each.tried] : []))
  return read.length === 0 ? 1 : read.filter(({ loads }) => loads).length / read.length
}

/**
 * What came of files that were prepared, packed and tried with nobody helping, as a table in Markdown.
 *
 * @example console.log(anyFileTable(files).join('\n'))
 */
export function anyFileTable(files: readonly TriedFile[]): string[] {
  return [
    '| file | kind | triangles | parts | materials | largest map | steps | seconds | loads | the one reason |',
    '|---|---|---:|---:|---:|---:|---:|---:|---|---|',
    ...files.map((each) => {
      if ('refused' in each) return row([each.file, '', '', '', '', '', '', '', 'not read', each.refused])
      const { kind, triangles, parts, materials, largestMapPixels, worklist, seconds, loads, reason } = each.tried
      const late = isLate(each.tried) ? ' (late)' : ''
      return row([
        each.file,
        kind,
        triangles.toLocaleString('en'),
        String(parts),
        String(materials),
        largestMapPixels === 0 ? '' : `${largestMapPixels}²`,
        String(worklist.length),
        `${seconds.toFixed(1)}${late}`,
        loads ? 'loads' : 'refused',
        reason ?? '',
      ])
    }),
  ]
}

/** What files are called and say must not end a cell. */
const row = (cells: readonly string[]): string =>
  `| ${cells.map((cell) => cell.replaceAll(/[|\r\n]+/g, ' ').slice(0, 300)).join(' | ')} |`

/**
 * One sentence on all of them.
 * @example anyFileSummary([])
 */
export function anyFileSummary(files: readonly TriedFile[]): string {
  const read = files.flatMap((each) => ('tried' in each ? [each.tried] : []))
  const late = read.filter(isLate).length
  const timed = read.filter(({ largestMapPixels }) => largestMapPixels <= LARGEST_TIMED_MAP).length
  return (
    `${files.length} files: ${read.filter(({ loads }) => loads).length} of the ${read.length} that can be read ` +
    `load (${(shareThatLoads(files) * 100).toFixed(1)} %), ${files.length - read.length} cannot be read; ${late} ` +
    `of the ${timed} with maps of at most 1024² took longer than 3 s and 1 s for each 10,000 triangles.`
  )
}
