import { inMillions, limits } from './limits.ts'
import { SaxesParser } from 'saxes'
import { PlainError } from './plain-error.ts'
import { numberAt } from './word-scanner.ts'

/** An element of an XML file, without the prefix of its name. */
export interface XmlElement {
  name: string
  attributes: Record<string, string>
  children: XmlElement[]
  text: string
}

const CHUNK_CHARACTERS = 1 << 20

/**
 * Reads XML into a tree. Entities other than the standard ones are not expanded.
 * @throws PlainError with the line, when it is not well-formed, too deep or too large
 *
 * @example parseXml('<mesh id="gate"/>', 'gate.dae').attributes['id'] // 'gate'
 */
export function parseXml(text: string, file: string, onProgress?: (fraction: number) => void): XmlElement {
  const parser = new SaxesParser()
  const top: XmlElement = { name: '', attributes: {}, children: [], text: '' }
  const open: XmlElement[] = [top]
  let count = 0
  const wrong = (what: string): PlainError => new PlainError(`${what} (line ${parser.line})`, file, 'Export it again.')
  parser.on('error', (error) => {
    throw wrong(`its XML is broken: ${error.message.replace(/^[\d:]+\s*/, '').slice(0, 120)}`)
  })
  parser.on('opentag', (tag) => {
    if (++count > limits.records || open.length > limits.recordDepth)
      throw wrong(`it has more than ${inMillions(limits.records)} elements or ${limits.recordDepth} levels`)
    const element: XmlElement = { name: localName(tag.name), attributes: tag.attributes, children: [], text: '' }
    open[open.length - 1].children.push(element)
    open.push(element)
  })
  parser.on('closetag', () => void open.pop())
  const addText = (text: string): void => {
    open[open.length - 1].text += text
  }
  parser.on('text', addText)
  parser.on('cdata', addText)
  for (let start = 0; start < text.length; start += CHUNK_CHARACTERS) {
    parser.write(text.slice(start, start + CHUNK_CHARACTERS))
    onProgress?.(start / text.length)
  }
  parser.close()
  return top.children[0] ?? top
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1)

/**
 * The first child element of that name; null where there is none.
 *
 * @example const accessor = firstOf(source, 'technique_common', 'accessor')
 */
export const firstOf = (element: XmlElement | undefined, ...path: string[]): XmlElement | undefined =>
  path.reduce<XmlElement | undefined>((at, name) => at?.children.find((child) => child.name === name), element)

/**
 * Every child element of that name, in order.
 *
 * @example for (const input of allOf(sampler, 'input')) inputs.push(input.attributes)
 */
export const allOf = (element: XmlElement | undefined, name: string): XmlElement[] =>
  element?.children.filter((child) => child.name === name) ?? []

/**
 * The element that “#id” means.
 * @example idOfUrl('#gate-mesh') // 'gate-mesh'
 */
export const idOfUrl = (url: string | undefined): string => (url ?? '').replace(/^.*#/, '')

/**
 * Numbers parted by white space. Words that are no numbers become NaN and are judged where they are used.
 *
 * @example const [x, y, z] = numbersOf(firstOf(node, 'translate'))
 */
export function numbersOf(element: XmlElement | undefined): Float64Array {
  const text = element?.text ?? ''
  // Some exporters write decimals as their user's country does; the standard parts numbers by white space only.
  const bytes = new TextEncoder().encode(/\d,\d/.test(text.slice(0, 4000)) ? text.replaceAll(',', '.') : text)
  let count = 0
  for (let at = 0; at < bytes.length; at++) if (bytes[at] > 32 && (at === 0 || bytes[at - 1] <= 32)) count++
  const numbers = new Float64Array(count)
  let offset = 0
  for (let index = 0; index < count; index++) {
    while (bytes[offset] <= 32) offset++
    const start = offset
    while (offset < bytes.length && bytes[offset] > 32) offset++
    numbers[index] = numberAt(bytes, start, offset)
  }
  return numbers
}

/**
 * The words of an element’s text.
 *
 * @example const names = wordsOf(firstOf(source, 'Name_array'))
 */
export const wordsOf = (element: XmlElement | undefined): string[] =>
  (element?.text ?? '').split(/\s+/).filter((word) => word !== '')
