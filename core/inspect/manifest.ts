import { z } from 'zod'
import { sha256Hex } from '../support/hashing.ts'
import { readArchive } from '../support/archive.ts'
import { PlainError } from '../support/plain-error.ts'
import { readRecordOrNothing } from '../pack/records/index.ts'
import type { Finding } from '../rules/rule.ts'
import type { Rulebook } from '../game/schema.ts'
import { fileFinding } from './file-finding.ts'

const manifestSchema = z.object({
  game: z.string(),
  version: z.string(),
  files: z.array(z.object({ path: z.string(), bytes: z.number().int().min(0), sha256: z.string().optional() })),
})

/**
 * The files of a pack by path, with what is wrong with the archive; null when nothing can be read of it.
 * @example const { content, findings } = openFiles(bytes, 'otterby.zip', rulebook)
 */
export function openFiles(
  bytes: Uint8Array | ReadonlyMap<string, Uint8Array>,
  name: string,
  { files }: Rulebook,
): { content: ReadonlyMap<string, Uint8Array> | null; findings: Finding[] } {
  const size = bytes instanceof Uint8Array ? bytes.length : sum([...bytes.values()].map(({ length }) => length))
  if (size > files.archive.largestBytes) {
    const limit = `${files.archive.largestBytes / 1024 / 1024} MiB`
    return {
      content: null,
      findings: [
        fileFinding({
          rule: 'pack-size',
          severity: 'blocks',
          title: 'Size of the pack',
          where: name,
          value: `${(size / 1024 / 1024).toFixed(1)} MiB`,
          limit,
          message: `The pack has ${(size / 1024 / 1024).toFixed(1)} MiB; ${limit} are read`,
          why: 'The loader sets aside memory for that much.',
        }),
      ],
    }
  }
  try {
    return { content: bytes instanceof Uint8Array ? readArchive(bytes, name) : bytes, findings: [] }
  } catch (error) {
    if (!(error instanceof PlainError)) throw error
    return {
      content: null,
      findings: [
        fileFinding({
          rule: 'pack-archive',
          severity: 'blocks',
          title: 'Archive',
          where: name,
          limit: 'a whole ZIP',
          message: `The pack cannot be opened: ${error.what}`,
          why: 'Nothing of it can be read.',
        }),
      ],
    }
  }
}

const sum = (numbers: readonly number[]): number => numbers.reduce((all, each) => all + each, 0)

/**
 * Whether the manifest is there, is of this game, and lists exactly the files that are there.
 * @example const findings = checkManifest(content, rulebook)
 */
export function checkManifest(content: ReadonlyMap<string, Uint8Array>, rulebook: Rulebook): Finding[] {
  const { id, version, title, files } = rulebook
  const { path, writer } = files.manifest
  if (writer === 'none') return []
  const fault = (severity: 'blocks' | 'risky', where: string, limit: string, message: string): Finding =>
    fileFinding({
      rule: 'manifest',
      severity,
      title: 'Manifest',
      where,
      limit,
      message,
      why: 'The loader goes by the manifest.',
    })
  const parsed = manifestSchema.safeParse(readRecordOrNothing('manifest', content.get(path), path, rulebook))
  if (!parsed.success)
    return [
      fault(
        'blocks',
        path,
        'the list of files',
        content.has(path) ? 'The manifest cannot be read' : 'The manifest is missing',
      ),
    ]
  const manifest = parsed.data
  const findings: Finding[] = []
  if (manifest.game !== id)
    findings.push(fault('blocks', path, id, `The pack is for “${manifest.game}”, not for ${title}`))
  if (manifest.version !== version)
    findings.push(
      fault('risky', path, version, `The pack was made for version ${manifest.version}; this is ${version}`),
    )
  for (const { path: listed, bytes, sha256 } of manifest.files) {
    const found = content.get(listed)
    if (!found) findings.push(fault('blocks', listed, 'a file', `The manifest lists ${listed}; it is not in the pack`))
    else if (found.length !== bytes || (files.manifest.checksums === 'sha256' && sha256Hex(found) !== sha256))
      findings.push(fault('blocks', listed, 'the listed bytes', `${listed} is not the file that the manifest lists`))
  }
  const listed = new Set([path, ...manifest.files.map((file) => file.path)])
  return [
    ...findings,
    ...[...content.keys()]
      .filter((each) => !listed.has(each))
      .map((each) => fault('risky', each, 'listed', `The manifest does not list ${each}; it is skipped`)),
  ]
}
