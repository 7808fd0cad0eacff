import { plural } from '../ui/format'
import type { Licence } from './licences'

/** What the application is made of, and under which terms. */
export function LicencesPage({ licences }: { licences: readonly Licence[] }) {
  return (
    <main className="mx-auto w-full max-w-4xl px-8 py-10">
      <h1 className="text-[26px]">Licences</h1>
      <p className="mt-1 max-w-2xl text-ink-2">
        Gentle Crate is built with {plural(licences.length, 'package')} and fonts of other people, all of them open.
        Each is here with the terms under which it is shipped.
      </p>
      <ul className="mt-6">
        {licences.map(({ name, version, licence, text }) => (
          <li key={`${name} ${version}`} className="border-t border-edge">
            <details>
              <summary className="flex cursor-pointer items-baseline gap-3 py-1.5">
                <span className="min-w-0 flex-1 truncate font-semibold">{name}</span>
                <span className="num text-[13px] text-ink-2">{version}</span>
                <span className="w-40 text-right text-[13px] text-ink-2">{licence}</span>
              </summary>
              <pre className="num mb-3 max-h-96 overflow-auto rounded-lg border border-edge bg-slip p-3 text-[12px] whitespace-pre-wrap">
                {text}
              </pre>
            </details>
          </li>
        ))}
      </ul>
    </main>
  )
}
