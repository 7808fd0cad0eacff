import { Plus, Trash2 } from 'lucide-react'
import type { JSONPath } from 'jsonc-parser'
import { emptyValue, shapeOf, withoutNull, type SchemaPlace } from '../../../core/game/schema-walk'
import { isBelow } from './draft'
import { useForm, wordsOf } from './form-context'
import { PlainField } from './plain-field'

interface SchemaFieldProps {
  /** Whether its name stands above already. */
  named?: boolean
  path: JSONPath
  place: SchemaPlace
  value: unknown
}

const isPlain = ({ type, items, prefixItems }: SchemaPlace): boolean =>
  type !== 'object' && !(type === 'array' && !prefixItems && typeof items === 'object' && items.type === 'object')

/** A field of a rulebook with all that is below it, made from what the schema says. */
export function SchemaField({ path, place, value, named = false }: SchemaFieldProps) {
  const { mayBeNull, place: inner } = withoutNull(place)
  const shape = shapeOf(inner, value)
  if (mayBeNull) return <MayBeMissing path={path} place={inner} value={value} />
  if (shape.type === 'array' && !isPlain(shape)) return <Listed path={path} place={shape} value={value} />
  if (shape.type === 'object') return <Grouped path={path} place={inner} value={value} named={named} />
  return <PlainField path={path} place={shape} value={value} />
}

/** What a game may not have at all: whether it has it, and then what. */
function MayBeMissing({ path, place, value }: SchemaFieldProps) {
  const { change } = useForm()
  const has = value !== null && value !== undefined
  const name = wordsOf(String(path.at(-1)))
  const toggle = (
    <label className="flex items-center gap-2 py-1 text-[13.5px]">
      <input
        type="checkbox"
        className="size-4 accent-spruce"
        checked={has}
        onChange={({ target }) => change(path, target.checked ? emptyValue(place) : null)}
      />
      {name}
      {!has && <span className="text-ink-2">not asked</span>}
    </label>
  )
  if (!has) return toggle
  return (
    <div>
      {toggle}
      <SchemaField path={path} place={place} value={value} named />
    </div>
  )
}

/** The fields of an object; of several shapes one is chosen. */
function Grouped({ path, place, value, named = false }: SchemaFieldProps) {
  const { change } = useForm()
  const shape = shapeOf(place, value)
  const said = typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {}
  const shapes = [...(place.anyOf ?? []), ...(place.oneOf ?? [])]
  return (
    <fieldset className={named ? 'py-1' : 'ml-1 border-l-2 border-edge pl-3'}>
      <legend className={named ? 'sr-only' : 'pt-1 text-[13px] font-semibold'}>{wordsOf(String(path.at(-1)))}</legend>
      {place.description !== undefined && <p className="text-[12.5px] text-ink-2">{place.description}</p>}
      {Object.entries(shape.properties ?? {}).map(([name, below]) =>
        below.const === undefined ? (
          <SchemaField key={name} path={[...path, name]} place={below} value={said[name]} />
        ) : (
          <PlainChoice
            key={name}
            name={name}
            value={said[name]}
            words={shapes.flatMap(({ properties }) => String(properties?.[name]?.const ?? ''))}
            onChoose={(word) =>
              change(path, emptyValue(shapes.find(({ properties }) => properties?.[name]?.const === word) ?? shape))
            }
          />
        ),
      )}
    </fieldset>
  )
}

interface PlainChoiceProps {
  name: string
  value: unknown
  words: readonly string[]
  onChoose: (word: string) => void
}

/** Which of several shapes something has. */
const PlainChoice = ({ name, value, words, onChoose }: PlainChoiceProps) => (
  <label className="flex items-center gap-3 py-1 text-[13.5px]">
    <span className="w-[170px] shrink-0">{wordsOf(name)}</span>
    <select className="field" value={String(value)} onChange={({ target }) => onChoose(target.value)}>
      {words.map((word) => (
        <option key={word}>{word}</option>
      ))}
    </select>
  </label>
)

/** Several things of one sort, each folded under its name. */
function Listed({ path, place, value }: SchemaFieldProps) {
  const { change, add, faults } = useForm()
  const list: unknown[] = Array.isArray(value) ? value : []
  const of = typeof place.items === 'object' ? place.items : null
  if (!of) return null
  const name = wordsOf(String(path.at(-1)))
  return (
    <div className="py-1">
      <p className="text-[13px] font-semibold">
        {name} <span className="num font-normal text-ink-2">{list.length}</span>
      </p>
      <ul>
        {list.map((each, number) => {
          const at = [...path, number]
          const faulty = faults.some((fault) => isBelow(fault, at))
          return (
            // Places in a list are what the text knows them by.
            <li key={number} className="flex items-start gap-1">
              <details className="min-w-0 flex-1 rounded border border-edge bg-slip px-2 py-0.5">
                <summary className="cursor-pointer text-[13.5px]">
                  {titleOf(each, `${name} ${number + 1}`)}
                  {faulty && <span className="ml-2 text-block">■ something is wrong here</span>}
                </summary>
                <SchemaField path={at} place={of} value={each} named />
              </details>
              <button
                type="button"
                className="p-1 text-ink-2 hover:text-block"
                aria-label={`Remove ${titleOf(each, `${name} ${number + 1}`)}`}
                onClick={() => change(at, undefined)}
              >
                <Trash2 size={15} aria-hidden="true" />
              </button>
            </li>
          )
        })}
      </ul>
      <button
        type="button"
        className="button mt-1 px-2 py-0.5 text-[13px]"
        onClick={() => add(path, list.length, list.at(-1) === undefined ? emptyValue(of) : list.at(-1))}
      >
        <Plus size={14} aria-hidden="true" /> One more of {name}
      </button>
    </div>
  )
}

function titleOf(value: unknown, otherwise: string): string {
  if (typeof value !== 'object' || value === null) return otherwise
  const said = value as Record<string, unknown>
  const named = ['title', 'name', 'id', 'role', 'slot', 'level', 'path'].flatMap((field) =>
    typeof said[field] === 'string' || typeof said[field] === 'number' ? String(said[field]) : [],
  )
  return named[0] ?? otherwise
}
