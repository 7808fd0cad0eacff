import { nearest, orNearest } from '../nearest.ts'
import { matchesWhole } from '../../support/pattern.ts'
import { formatCount, plural } from '../../support/wording.ts'
import type { FieldValue, SingleValue } from '../schema-catalogue.ts'

/** What is wrong with one value, and what it was probably meant for. */
export interface ValueFault {
  wrong: 'type' | 'range' | 'choice' | 'length' | 'pattern' | 'count' | 'twice'
  /** Whether the game refuses it, or takes it with a complaint. */
  severity: 'blocks' | 'risky'
  value: string
  limit: string
  message: string
  /** What would be right, where that can be told. */
  instead?: unknown
}

const sortWords: Record<FieldValue['sort'], string> = {
  text: 'a text',
  number: 'a number',
  'yes-no': 'true or false',
  choice: 'one of its words',
  reference: 'a name',
  list: 'a list',
}

/**
 * A value in a few letters.
 * @example shownValue('oak')
 */
export const shownValue = (value: unknown): string => {
  const text = typeof value === 'string' ? value : JSON.stringify(value)
  return text.length > 60 ? `${text.slice(0, 59)}…` : text
}

/**
 * “1 to 5,000 shillings”.
 * @example rangeWords({ sort: 'number', least: 1, most: 5000, unit: 'shillings', whole: true })
 */
export const rangeWords = ({ least, most, unit }: Extract<SingleValue, { sort: 'number' }>): string =>
  `${formatNumber(least)} to ${formatNumber(most)}${unit === '' ? '' : ` ${unit}`}`

/**
 * 1200 → “1,200”, 0.5 → “0.5”; what has more digits than anyone reads keeps its exponent.
 * @example formatNumber(1200) // '1,200'
 */
export const formatNumber = (value: number): string =>
  Number.isSafeInteger(value) ? formatCount(value) : String(value)

/**
 * What is wrong with a value by itself; names are looked up elsewhere.
 * @param field the game's word for the line, for the sentence
 *
 * @example valueFaults({ sort: 'number', least: 1, most: 9, unit: '', whole: true }, 12, 'laps')[0].wrong // 'range'
 */
export function valueFaults(allowed: FieldValue, value: unknown, field: string): ValueFault[] {
  if (allowed.sort !== 'list') return singleFaults(allowed, value, field)
  if (!Array.isArray(value)) return [wrongType(allowed, value, field, [value])]
  const words = value.map((each: unknown) => JSON.stringify(each))
  const twice = words.find((word, index) => words.indexOf(word) < index)
  return [
    ...(value.length < allowed.least || value.length > allowed.most
      ? [
          {
            wrong: 'count' as const,
            severity: 'blocks' as const,
            value: plural(value.length, 'value'),
            limit: `${allowed.least} to ${allowed.most}`,
            message: `“${field}” lists ${value.length}; the game takes ${allowed.least} to ${allowed.most}`,
            ...(value.length > allowed.most ? { instead: value.slice(0, allowed.most) as unknown } : {}),
          },
        ]
      : []),
    ...(twice === undefined
      ? []
      : [
          {
            wrong: 'twice' as const,
            severity: 'risky' as const,
            value: twice.slice(0, 60),
            limit: 'once',
            message: `“${field}” lists ${twice.slice(0, 60)} twice`,
            instead: value.filter((_, index) => words.indexOf(words[index]) === index) as unknown,
          },
        ]),
    ...value.flatMap((each: unknown, index) =>
      singleFaults(allowed.of, each, `${field}[${index}]`).map(({ instead, ...fault }) => ({
        ...fault,
        ...(instead === undefined
          ? {}
          : { instead: value.map((other: unknown, at) => (at === index ? instead : other)) as unknown }),
      })),
    ),
  ]
}

function singleFaults(allowed: SingleValue, value: unknown, field: string): ValueFault[] {
  switch (allowed.sort) {
    case 'yes-no':
      return typeof value === 'boolean'
        ? []
        : [wrongType(allowed, value, field, value === 'true' || value === 'false' ? value === 'true' : undefined)]
    case 'number':
      return numberFaults(allowed, value, field)
    case 'choice':
      return choiceFaults(allowed, value, field)
    case 'reference':
      return typeof value === 'string' && value !== '' ? [] : [wrongType(allowed, value, field)]
    case 'text':
      return textFaults(allowed, value, field)
  }
}

function numberFaults(allowed: Extract<SingleValue, { sort: 'number' }>, value: unknown, field: string): ValueFault[] {
  if (typeof value !== 'number' || !Number.isFinite(value)) {
    const read = typeof value === 'string' && value.trim() !== '' ? Number(value) : NaN
    return [wrongType(allowed, value, field, Number.isFinite(read) ? read : undefined)]
  }
  const { least, most, whole } = allowed
  if (value < least || value > most)
    return [
      {
        wrong: 'range',
        severity: 'blocks',
        value: `${formatNumber(value)} ${allowed.unit}`.trim(),
        limit: rangeWords(allowed),
        message: `“${field}” is ${formatNumber(value)}; the game takes ${rangeWords(allowed)}`,
        instead: Math.min(most, Math.max(least, value)),
      },
    ]
  return whole && !Number.isInteger(value)
    ? [
        {
          wrong: 'range',
          severity: 'blocks',
          value: String(value),
          limit: 'whole numbers',
          message: `“${field}” is ${value}; the game takes whole numbers`,
          instead: Math.min(Math.floor(most), Math.max(Math.ceil(least), Math.round(value))),
        },
      ]
    : []
}

function choiceFaults(allowed: Extract<SingleValue, { sort: 'choice' }>, value: unknown, field: string): ValueFault[] {
  const words = allowed.of.map(({ word }) => word)
  if (typeof value !== 'string') return [wrongType(allowed, value, field)]
  if (words.includes(value)) return []
  const near = nearest(value, words)
  return [
    {
      wrong: 'choice',
      severity: 'blocks',
      value: shownValue(value),
      limit: words.join(', '),
      message: `“${field}” is “${shownValue(value)}”, which the game does not know${orNearest(near)}`,
      ...(near === null ? {} : { instead: near }),
    },
  ]
}

function textFaults(allowed: Extract<SingleValue, { sort: 'text' }>, value: unknown, field: string): ValueFault[] {
  if (typeof value !== 'string')
    return [wrongType(allowed, value, field, typeof value === 'number' ? String(value) : undefined)]
  const letters = [...value]
  return [
    ...(letters.length > allowed.longest
      ? [
          {
            wrong: 'length' as const,
            severity: 'risky' as const,
            value: plural(letters.length, 'letter'),
            limit: `${allowed.longest} letters`,
            message: `“${field}” has ${letters.length} letters; the game cuts it off after ${allowed.longest}`,
            instead: letters.slice(0, allowed.longest).join('').trimEnd(),
          },
        ]
      : []),
    ...(allowed.pattern !== null && !matchesWhole(allowed.pattern, value)
      ? [
          {
            wrong: 'pattern' as const,
            severity: 'blocks' as const,
            value: shownValue(value),
            limit: allowed.pattern,
            message: `“${field}” is “${shownValue(value)}”, and not of the form ${allowed.pattern}`,
          },
        ]
      : []),
  ]
}

const wrongType = (allowed: FieldValue, value: unknown, field: string, instead?: unknown): ValueFault => ({
  wrong: 'type',
  severity: 'blocks',
  value: shownValue(value),
  limit: sortWords[allowed.sort],
  message: `“${field}” is ${shownValue(value)}; the game reads ${sortWords[allowed.sort]} there`,
  ...(instead === undefined ? {} : { instead }),
})
