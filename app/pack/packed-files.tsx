import { useState } from 'react'
import type { Rulebook } from '../../core/game/schema'
import { sortNames } from '../crate/pack-treemap'
import { useCrate } from '../crate/use-crate'
import type { PackedFileFacts, PackFacts } from '../storage/database'
import { formatBytes, formatCount } from '../ui/format'

const MOST_ROWS = 400

/** Every file of a pack: where it lies, what it is, who asks for it, how large it is. */
export function PackedFiles({ pack }: { pack: PackFacts }) {
  const { rulebook } = useCrate()
  const [words, setWords] = useState('')
  const found = pack.files.filter((file) => matches(file, words, rulebook))
  return (
    <section className="mt-7" aria-label="Files of the pack">
      <div className="flex items-baseline gap-4">
        <h2 className="text-[17px]">Files</h2>
        <input
          type="search"
          aria-label="Find a file"
          placeholder="Find by path, item or what asks for it"
          className="field ml-auto w-[320px]"
          value={words}
          onChange={(event) => setWords(event.currentTarget.value)}
        />
      </div>
      <table className="mt-2 w-full text-left">
        <thead className="caption">
          <tr className="border-b border-edge-strong">
            {['Path in the pack', 'What it is', 'Who asks for it'].map((title) => (
              <th key={title} scope="col" className="py-1.5 pr-4 font-semibold">
                {title}
              </th>
            ))}
            <th scope="col" className="text-right font-semibold">
              Size
            </th>
          </tr>
        </thead>
        <tbody>
          {found.slice(0, MOST_ROWS).map((file) => (
            <tr key={file.path} className="border-b border-dashed border-edge align-top">
              <td className="num py-1.5 pr-4 text-[13px] break-all">
                {file.path}
                {file.written !== undefined && (
                  <span className="block text-[12px] text-ink-2">as written: {file.written}</span>
                )}
              </td>
              <td className="pr-4 text-[13px] text-ink-2">{meaningOf(file, rulebook)}</td>
              <td className="pr-4 text-[13px] text-ink-2">
                <Askers file={file} />
              </td>
              <td className="num text-right text-[13px] whitespace-nowrap">{formatBytes(file.bytes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.length === 0 && <p className="mt-3 text-ink-2">No file of the pack has these words.</p>}
      {found.length > MOST_ROWS && (
        <p className="mt-3 text-ink-2">
          {formatCount(found.length - MOST_ROWS)} more are not shown: find them by a word of their path.
        </p>
      )}
    </section>
  )
}

function Askers({ file: { askedBy = [] } }: { file: PackedFileFacts }) {
  const [first, ...others] = askedBy
  if (!first) return null
  return (
    <>
      {first.item !== null && <b className="font-semibold text-ink">{first.item}: </b>}
      {first.by}
      {others.length > 0 && (
        <details>
          <summary className="cursor-pointer">and {formatCount(others.length)} more</summary>
          <ul>
            {others.map(({ item, by }) => (
              <li key={`${item} ${by}`}>
                {item}: {by}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

function matches(file: PackedFileFacts, words: string, rulebook: Rulebook): boolean {
  const text = [
    file.path,
    file.written ?? '',
    meaningOf(file, rulebook),
    ...(file.askedBy ?? []).map(({ item, by }) => `${item ?? ''} ${by}`),
  ]
    .join(' ')
    .toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word))
}

function meaningOf({ sort }: PackedFileFacts, { files, materials, halfBlocks }: Rulebook): string {
  if (sort === 'manifest')
    return files.manifest.checksums === 'none' ? 'every file with its size' : 'every file with size and checksum'
  if (sort === 'entry') return 'makes the item exist in the game'
  if (sort === 'look') return materials.tinted ? 'finish and tint of each material' : 'which maps each material shows'
  if (sort === 'mesh') return halfBlocks ? 'the half-blocks' : 'the mesh'
  if (sort === 'map') return 'a map'
  return sort ? sortNames[sort].title.toLowerCase() : 'belongs to an item'
}
