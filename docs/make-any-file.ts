// Prepares, packs and tries every mesh of some folders with nobody helping, and writes docs/any-file.md.
import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import {
  anyFileSummary,
  anyFileTable,
  reportSchema,
  shareThatLoads,
  type TriedFile,
} from '../core/crate/any-file-table.ts'

/** What share of the files that can be read has to load. */
const WANTED = 0.97

const folders = process.argv.slice(2)
const commandLine = fileURLToPath(new URL('../cli/bin.mjs', import.meta.url))

/** What the command line reports of a folder: measured as a modder runs it. */
function filesOf(folder: string): TriedFile[] {
  const words = ['prepare', folder, '--rulebook', 'tarn-and-tiller', '--report', '--json']
  const { stdout, status, error } = spawnSync(process.execPath, [commandLine, ...words], {
    stdio: ['ignore', 'pipe', 'inherit'],
    encoding: 'utf8',
    maxBuffer: 256 * 2 ** 20,
  })
  if (error) throw error
  if (status === null || status > 1) throw new Error(`${folder} was not tried: the call ended with ${status}`)
  return reportSchema.parse(JSON.parse(stdout)).files
}

const sections: string[] = []
const all: TriedFile[] = []
for (const folder of folders) {
  const files = filesOf(folder)
  all.push(...files)
  const name = folder.split('/').filter(Boolean).slice(-2).join('/')
  sections.push(`## ${name}`, '', anyFileSummary(files), '', ...anyFileTable(files), '')
}
writeFileSync(
  new URL('any-file.md', import.meta.url),
  [
    '# Any file',
    '',
    'Written by `bin/any-file FOLDER…`. Every mesh of the folders is prepared as *Prepare for me* does, packed, ' +
      'and read',
    'by the stand-in loader, with nobody helping; what it becomes is guessed from the file. The seconds are ' +
      'those of one',
    'core of the machine that wrote this, from the read file to the loaded pack.',
    '',
    anyFileSummary(all),
    '',
    ...sections,
  ].join('\n'),
)
console.log(anyFileSummary(all))
process.exit(shareThatLoads(all) >= WANTED ? 0 : 1)
