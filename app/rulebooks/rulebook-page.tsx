import { Search } from 'lucide-react'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { Rulebook } from '../../core/game/schema'
import { builtInRulebooks } from '../../core/game/load'
import { sentencesOf } from '../../core/game/sentences'
import { topics, type RuleSentence, type Topic } from '../../core/game/sentences/sentence'
import { useOwnRulebooks } from '../queries/rulebook-queries'
import { RuleChanges } from './rule-changes'
import { StartDialog } from './start-dialog'
import { plural } from '../../core/support/wording'

const topicTitles: Record<Topic, string> = {
  catalogue: 'Entries, donors and events',
  space: 'Space and figure',
  files: 'Files and places',
  names: 'Names',
  mesh: 'Mesh',
  levels: 'Levels and shadow',
  surface: 'Maps and materials',
  solids: 'Solids',
  motion: 'Motion, points and lights',
}

interface RulebookPageProps {
  rulebook: Rulebook
  /** Under which it is kept, where it is one of the modder's own. */
  ownKey?: string | null
}

/** One game's demands, for reading: sentences by topic, of one kind or with some words. */
export function RulebookPage({ rulebook, ownKey = null }: RulebookPageProps) {
  const [starting, setStarting] = useState(false)
  const [search, setSearch] = useSearchParams()
  const kind = rulebook.kinds.find(({ id }) => id === search.get('kind'))?.id
  const words = search.get('find') ?? ''
  const sentences = sentencesOf(rulebook, { kind, words })
  const own = useOwnRulebooks().flatMap(({ rulebook: each }) => each ?? [])
  const others = [...builtInRulebooks(), ...own].filter(({ id }) => id !== rulebook.id)
  const other = others.find(({ id }) => id === search.get('against'))
  const change = (name: string, value: string): void =>
    setSearch(
      (now) => {
        if (value === '') now.delete(name)
        else now.set(name, value)
        return now
      },
      { replace: true },
    )
  return (
    <main className="mx-auto w-full max-w-5xl px-8 py-8">
      <div className="flex flex-wrap items-center gap-2.5">
        <h1 className="min-w-0 flex-1 text-[28px]">
          {rulebook.title} <span className="num text-[18px] font-normal text-ink-2">rulebook {rulebook.version}</span>
        </h1>
        <Link className="link" to="/rulebooks">
          All rulebooks
        </Link>
        {ownKey !== null && (
          <Link className="button" to={`/rulebooks/${ownKey}/edit`}>
            Edit
          </Link>
        )}
        <button type="button" className="button" onClick={() => setStarting(true)}>
          Start from it
        </button>
      </div>
      <StartDialog from={starting ? rulebook : null} onClose={() => setStarting(false)} />
      <p className="mt-1 max-w-[68ch] text-ink-2">{rulebook.summary}</p>
      <div className="sticky top-0 z-10 mt-5 flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-edge-strong bg-paper py-3">
        <label className="flex items-center gap-2">
          What holds for
          <select className="field" value={kind ?? ''} onChange={(event) => change('kind', event.target.value)}>
            <option value="">every kind</option>
            {rulebook.kinds.map(({ id, title }) => (
              <option key={id} value={id}>
                {title}
              </option>
            ))}
          </select>
        </label>
        <label className="relative flex min-w-0 flex-1 items-center">
          <span className="sr-only">Search the rules</span>
          <Search size={16} aria-hidden="true" className="absolute left-2.5 text-ink-2" />
          <input
            type="search"
            className="field w-full max-w-[380px] pl-8"
            placeholder="triangles, normal map, slot…"
            value={words}
            onChange={(event) => change('find', event.target.value)}
          />
        </label>
        {others.length > 0 && (
          <label className="flex items-center gap-2">
            Beside
            <select
              className="field"
              value={other?.id ?? ''}
              onChange={(event) => change('against', event.target.value)}
            >
              <option value="">no other game</option>
              {others.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </label>
        )}
        {!other && (
          <span role="status" className="num text-[13px] text-ink-2">
            {plural(sentences.length, 'rule')}
          </span>
        )}
      </div>
      {other && <RuleChanges from={rulebook} to={other} filter={{ kind, words }} />}
      {!other && sentences.length === 0 && (
        <p className="py-10 text-center text-ink-2">
          No rule of this game says that. Try another word{kind === undefined ? '' : ', or every kind'}.
        </p>
      )}
      {topics.map((topic) => {
        const said = sentences.filter((each) => each.topic === topic)
        return (
          !other && said.length > 0 && <RulesOfTopic key={topic} topic={topic} sentences={said} rulebook={rulebook} />
        )
      })}
    </main>
  )
}

interface RulesOfTopicProps {
  topic: Topic
  sentences: readonly RuleSentence[]
  rulebook: Rulebook
}

function RulesOfTopic({ topic, sentences, rulebook }: RulesOfTopicProps) {
  const heading = `rules-of-${topic}`
  return (
    <section aria-labelledby={heading} className="mt-6">
      <h2 id={heading} className="text-[19px]">
        {topicTitles[topic]}
      </h2>
      <ul>
        {sentences.map(({ field, kinds, sentence, why }) => (
          <li
            key={`${field} ${kinds?.join() ?? ''}`}
            className="grid grid-cols-[minmax(0,1fr)_minmax(0,20rem)] gap-x-8 border-b border-dashed border-edge py-2"
          >
            <p className="font-medium wrap-anywhere">
              {kinds !== null && (
                <span className="mr-2 text-[13px] font-normal text-ink-2">
                  {kinds.map((id) => rulebook.kinds.find((each) => each.id === id)?.title ?? id).join(', ')}:
                </span>
              )}
              {sentence}
            </p>
            <p className="text-[13.5px] text-ink-2">{why}</p>
          </li>
        ))}
      </ul>
    </section>
  )
}
