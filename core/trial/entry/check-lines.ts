import { RE2JS } from 're2js'
import type { Kind, Rulebook } from '../../game/schema.ts'
import type { TrialLog } from '../log.ts'
import { keysInOrder, LONGEST_KEY, type LoadedEntry } from './read-entry.ts'

type Field = Rulebook['catalogue']['fields'][number]
type Value = Field['value']
type Single = Exclude<Value, { sort: 'list' }>

/** What the game knows by name when it reads an entry. */
export interface Known {
  /** Of the item, by what it is. */
  own: Record<'part' | 'group' | 'point' | 'marker' | 'clip' | 'light' | 'look', ReadonlySet<string>>
  /** Every item of the pack, with its kind. */
  items: ReadonlyMap<string, string>
}

/**
 * Reads what an entry says besides its files: every line that the catalogue knows, and those that it does not.
 * @example checkLines(path, entry, known, kind, rulebook, log)
 */
export function checkLines(
  path: string,
  entry: LoadedEntry,
  known: Known,
  kind: Kind,
  rulebook: Rulebook,
  log: TrialLog,
): void {
  const { catalogue, stock } = rulebook
  const isOf = (kinds: readonly string[] | null): boolean => !kinds || kinds.includes(kind.id)
  const fields = catalogue.fields.filter(({ kinds }) => isOf(kinds))
  const rows = catalogue.rows && isOf(catalogue.rows.kinds) ? catalogue.rows : null
  const taken = stock.entries.find(({ id }) => id === entry.item)
  if (taken) log.refuse('entry.id', path, `There is a ${entry.item} in the game: ${taken.title}.`)
  const read = (key: string, value: unknown, field: Field): void =>
    new LineReader(path, key, known, rulebook, log).read(value, field)
  const { files, last } = keysInOrder(rulebook)
  const passed = new Set([
    ...files,
    ...last,
    rulebook.files.words.entry.like ?? 'like',
    rulebook.files.words.entry.events ?? 'events',
  ])
  for (const key of catalogue.fields.length > 0 ? Object.keys(entry.lines) : [])
    if (!passed.has(key) && key !== rows?.key && !fields.some((field) => field.key === key))
      log.complain('entry.unknown', path, `The entry says ${key}; it is passed over.`)
  for (const field of fields) read(field.key, lineOf(entry.lines, field.key), field)
  if (!rows) return
  const said = lineOf(entry.lines, rows.key) ?? []
  if (!Array.isArray(said) || said.length > MOST_ROWS || !said.every(isRow)) {
    log.refuse('entry.value', path, `${rows.key} is no list of rows.`)
    return
  }
  const seen = new Set<unknown>()
  for (const [number, row] of said.entries()) {
    const look = lineOf(row, rows.lookKey)
    if (typeof look !== 'string' || !known.own.look.has(look))
      log.refuse('entry.row', path, `Row ${number + 1} of ${rows.key} is of no look of the item.`)
    else if (seen.has(look)) log.refuse('entry.row', path, `Row ${number + 1} of ${rows.key} is of ${look} once more.`)
    seen.add(look)
    for (const key of Object.keys(row))
      if (key !== rows.lookKey && !rows.fields.some((field) => field.key === key))
        log.complain('entry.unknown', path, `Row ${number + 1} of ${rows.key} says ${key}; it is passed over.`)
    for (const field of rows.fields) read(`${rows.key} ${number + 1}: ${field.key}`, lineOf(row, field.key), field)
  }
  if (rows.everyLook)
    for (const look of known.own.look)
      if (!seen.has(look)) log.refuse('entry.row', path, `${rows.key} has no row of ${look}.`)
}

const isRow = (row: unknown): row is Record<string, unknown> =>
  typeof row === 'object' &&
  row !== null &&
  !Array.isArray(row) &&
  Object.keys(row).every((key) => key.length <= LONGEST_KEY)

/** Rows that the game reads. */
const MOST_ROWS = 1000

const lineOf = (lines: Readonly<Record<string, unknown>>, key: string): unknown =>
  Object.hasOwn(lines, key) ? lines[key] : undefined

class LineReader {
  constructor(
    private readonly path: string,
    private readonly key: string,
    private readonly known: Known,
    private readonly rulebook: Rulebook,
    private readonly log: TrialLog,
  ) {}

  read(value: unknown, { needed, value: wanted }: Field): void {
    if (value === undefined || (needed && value === '')) {
      if (needed) this.log.refuse('entry.missing', this.path, `The entry says no ${this.key}.`)
    } else if (wanted.sort !== 'list') this.single(value, wanted)
    else if (!Array.isArray(value)) this.wrong()
    else {
      if (value.length < wanted.least || value.length > wanted.most)
        this.log.refuse(
          'entry.count',
          this.path,
          `${this.key} lists ${value.length}; ${wanted.least} to ${wanted.most} are read.`,
        )
      if (new Set(value.map((each: unknown) => JSON.stringify(each))).size < value.length)
        this.log.complain('entry.again', this.path, `${this.key} lists something twice.`)
      for (const each of value) this.single(each, wanted.of)
    }
  }

  private single(value: unknown, wanted: Single): void {
    if (wanted.sort === 'yes-no') {
      if (typeof value !== 'boolean') this.wrong()
    } else if (wanted.sort === 'number') {
      if (typeof value !== 'number' || !Number.isFinite(value)) this.wrong()
      else if (!(value >= wanted.least && value <= wanted.most) || (wanted.whole && value % 1 !== 0))
        this.log.refuse(
          'entry.range',
          this.path,
          `${this.key} is ${value}; ${wanted.least} to ${wanted.most} are read.`,
        )
    } else if (typeof value !== 'string') this.wrong()
    else if (wanted.sort === 'choice') {
      if (!wanted.of.some(({ word }) => word === value))
        this.log.refuse('entry.word', this.path, `${this.key} is ${value}, a word that is not known.`)
    } else if (wanted.sort === 'text') {
      if (Array.from(value).length > wanted.longest)
        this.log.complain('entry.long', this.path, `${this.key} is cut off after ${wanted.longest} letters.`)
      if (wanted.pattern !== null && !RE2JS.compile(wanted.pattern).matches(value))
        this.log.refuse('entry.form', this.path, `${this.key} is ${value}, which is not of its form.`)
    } else if (value === '') this.wrong()
    else if (!this.leadsTo(value, wanted))
      this.log.refuse('entry.lost', this.path, `${this.key} names ${value}, which is no ${wanted.to.join(' or ')}.`)
  }

  private leadsTo(name: string, { to, ofKinds }: Extract<Single, { sort: 'reference' }>): boolean {
    const { stock } = this.rulebook
    return to.some((target) => {
      if (target === 'item') {
        const kind = this.known.items.get(name)
        return kind !== undefined && (ofKinds === null || ofKinds.includes(kind))
      }
      if (target === 'stock')
        return (
          stock.entries.some(({ id, kind }) => id === name && (ofKinds === null || ofKinds.includes(kind))) ||
          (ofKinds === null && stock.objects.some(({ id }) => id === name))
        )
      return this.known.own[target].has(name)
    })
  }

  private wrong(): void {
    this.log.refuse('entry.value', this.path, `${this.key} is not what is read there.`)
  }
}
