import { useRevalidator } from 'react-router'
import { asText, dropAsides, type Aside } from '../storage/asides'
import { download } from '../ui/download'
import { plural } from '../ui/format'
import { tellError } from '../ui/notify'

/** What of a crate could not be read: named, to be saved as a file, until it is let go. */
export function SetAside({ crate, asides }: { crate: string; asides: readonly Aside[] }) {
  const { revalidate } = useRevalidator()
  if (asides.length === 0) return null
  const save = (): void =>
    download(new TextEncoder().encode(asText(asides)), `${crate}.set-aside.json`, 'application/json')
  return (
    <section
      aria-labelledby="set-aside"
      className="mb-4 rounded-lg border border-risk-mark bg-risk-wash p-3 text-[13.5px]"
    >
      <h2 id="set-aside" className="text-[15px]">
        {plural(asides.length, 'piece')} of this crate could not be read
      </h2>
      <ul className="my-1.5 max-h-28 overflow-y-auto">
        {asides.map(({ key, what, reason }) => (
          <li key={key} className="break-words">
            <b className="font-semibold">{what}</b>: {reason}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <button type="button" className="button" onClick={save}>
          Save {asides.length === 1 ? 'it' : 'them'} as a file
        </button>
        <button
          type="button"
          className="button"
          onClick={() => void dropAsides(crate).then(revalidate).catch(tellError)}
        >
          Let {asides.length === 1 ? 'it' : 'them'} go
        </button>
      </div>
    </section>
  )
}
