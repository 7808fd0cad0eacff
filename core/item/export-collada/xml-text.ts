/** An element of an XML file to be written. */
export interface Element {
  name: string
  attributes: Record<string, string | number>
  children: (Element | string)[]
}

/**
 * An element with its attributes and what it holds.
 *
 * @example element('unit', { name: 'inch', meter: 0.0254 })
 */
export const element = (
  name: string,
  attributes: Element['attributes'] = {},
  ...children: Element['children']
): Element => ({ name, attributes, children })

/** Signs that have a meaning in XML; signs that XML 1.0 has no place for (section 2.2) are left out. */
const escaped = (text: string): string =>
  text
    .replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')

function lines({ name, attributes, children }: Element, indent: string): string {
  const written = Object.entries(attributes).map(([key, value]) => ` ${key}="${escaped(String(value))}"`)
  const open = `${indent}<${name}${written.join('')}`
  if (children.length === 0) return `${open}/>`
  if (children.every((child) => typeof child === 'string'))
    return `${open}>${children.map((child) => escaped(String(child))).join('')}</${name}>`
  const inner = children.map((child) => (typeof child === 'string' ? escaped(child) : lines(child, `${indent} `)))
  return `${open}>\n${inner.join('\n')}\n${indent}</${name}>`
}

/**
 * An XML 1.0 file with one root element.
 * @example const bytes = new TextEncoder().encode(xmlText(root))
 */
export const xmlText = (root: Element): string => `<?xml version="1.0" encoding="utf-8"?>\n${lines(root, '')}\n`

/**
 * A number as it stands in a file: nine digits bring every 32-bit float back as it was, and readers keep such.
 * @example keptNumber(0.5) // 0.5
 */
export const keptNumber = (value: number): number => Number(Math.fround(value).toPrecision(9))

/**
 * Numbers as lists of XML Schema are written: with a space between.
 * @example numbersText([0, 0.5, 1]) // '0 0.5 1'
 */
export function numbersText(values: ArrayLike<number>): string {
  const words = new Array<string>(values.length)
  for (let at = 0; at < values.length; at++) words[at] = String(keptNumber(values[at]))
  return words.join(' ')
}

/** Ids of a file: a name as XML takes it (NCName), each given once. */
export class Ids {
  private readonly taken = new Set<string>()
  private readonly of = new Map<object, string>()

  /** The id of a thing, made from a name when it is asked for first. */
  for(thing: object, name: string): string {
    const known = this.of.get(thing)
    if (known !== undefined) return known
    const id = this.free(name)
    this.of.set(thing, id)
    return id
  }

  private free(name: string): string {
    const plain = name.normalize('NFKD').replace(/[^A-Za-z0-9_-]+/g, '_')
    const stem = /^[A-Za-z_]/.test(plain) ? plain : `_${plain}`
    let id = stem
    for (let number = 2; this.taken.has(id); number++) id = `${stem}-${number}`
    this.taken.add(id)
    return id
  }
}
