// Prepares, packs and tries every mesh of some folders with nobody helping, and writes docs/any-file.md.
import { writeFileSync } from 'node:fs'
import '../cli/node-assets.ts'
import { tryFiles } from '../cli/commands/prepare-report.ts'
import { gameNamed } from '../cli/game.ts'
import { anyFileSummary, anyFileTable, shareThatLoads, type TriedFile } from '../core/crate/any-file-table.ts'

/** What share of the files that can be read has to load. */
const WANTED = 0.97

const folders = process.argv.slice(2)
const game = await gameNamed('tarn-and-tiller')
const sections: string[] = []
const all: TriedFile[] = []
for (const folder of folders) {
  const files = await tryFiles([folder], game)
  all.push(...files)
  const name = folder.split('/').filter(Boolean).slice(-2).join('/')
  sections.push(`## ${name}`, '', anyFileSummary(files), '', ...anyFileTable(files), '')
}
writeFileSync(
  new URL('any-file.md', import.meta.url),
  [
    '# Any file',
    '',
    'Written by `bin/any-file FOLDER…`. Every mesh of the folders is prepared as *Prepare for me* does, packed, and read',
    'by the stand-in loader, with nobody helping; what it becomes is guessed from the file. The seconds are those of one',
    'core of the machine that wrote this, from the read file to the loaded pack.',
    '',
    anyFileSummary(all),
    '',
    ...sections,
  ].join('\n'),
)
console.log(anyFileSummary(all))
process.exit(shareThatLoads(all) >= WANTED ? 0 : 1)
