import type { TriedItem } from './try-alone.ts'

/** One mesh file that was tried: what came of it, or why it could not be read. */
export type TriedFile = { file: string } & ({ tried: TriedItem } | { refused: string })

/** What a file may take: three seconds, and one for each 10,000 triangles. */
export const secondsAllowed = (triangles: number): number => 3 + triangles / 10_000

/** The share of the files that can be read whose pack loads, 0 to 1; 1 where there is none. */
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
    '| file | kind | triangles | parts | materials | steps | seconds | loads | the one reason |',
    '|---|---|---:|---:|---:|---:|---:|---|---|',
    ...files.map((each) => {
      if ('refused' in each) return row([each.file, '', '', '', '', '', '', 'not read', each.refused])
      const { kind, triangles, parts, materials, worklist, seconds, loads, reason } = each.tried
      const late = seconds > secondsAllowed(triangles) ? ' (late)' : ''
      return row([
        each.file,
        kind,
        triangles.toLocaleString('en'),
        String(parts),
        String(materials),
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

/** One sentence on all of them. */
export function anyFileSummary(files: readonly TriedFile[]): string {
  const read = files.flatMap((each) => ('tried' in each ? [each.tried] : []))
  const late = read.filter(({ seconds, triangles }) => seconds > secondsAllowed(triangles)).length
  return `${files.length} files: ${read.filter(({ loads }) => loads).length} of the ${read.length} that can be read load (${(shareThatLoads(files) * 100).toFixed(1)} %), ${files.length - read.length} cannot be read; ${late} took longer than 3 s and 1 s for each 10,000 triangles.`
}
