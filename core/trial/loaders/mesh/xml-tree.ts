import { SaxesParser } from 'saxes'

/** An element as the game's loader holds it. */
export interface XmlNode {
  name: string
  attributes: Record<string, string>
  children: XmlNode[]
  text: string
}

const MOST_ELEMENTS = 4_000_000
const DEEPEST = 512

/**
 * @throws Error where it is no XML
 * @example const scene = within(readXml(bytes), 'library_visual_scenes', 'visual_scene')
 */
export function readXml(bytes: Uint8Array): XmlNode {
  const parser = new SaxesParser()
  const top: XmlNode = { name: '', attributes: {}, children: [], text: '' }
  const open = [top]
  let count = 0
  parser.on('error', (error) => {
    throw new Error(`it is no XML: ${error.message.slice(0, 80)}`)
  })
  parser.on('opentag', ({ name, attributes }) => {
    if (++count > MOST_ELEMENTS || open.length > DEEPEST) throw new Error('more elements than are read')
    const made: XmlNode = { name, attributes, children: [], text: '' }
    open[open.length - 1].children.push(made)
    open.push(made)
  })
  parser.on('closetag', () => void open.pop())
  parser.on('text', (text) => {
    open[open.length - 1].text += text
  })
  parser.write(new TextDecoder('utf-8', { fatal: true }).decode(bytes)).close()
  const [root] = top.children
  if (!root) throw new Error('it is empty')
  return root
}

/**
 * The first element of each name on the way down.
 * @example const scene = within(root, 'library_visual_scenes', 'visual_scene')
 */
export const within = (node: XmlNode | undefined, ...names: readonly string[]): XmlNode | undefined =>
  names.reduce<XmlNode | undefined>((at, name) => at?.children.find((child) => child.name === name), node)

/**
 * Everything of a name directly in an element.
 * @example const inputs = every(triangles, 'input')
 */
export const every = (node: XmlNode | undefined, name: string): XmlNode[] =>
  node?.children.filter((child) => child.name === name) ?? []

/**
 * @throws Error at the first word that is no number
 * @example const matrix = numbersIn(within(node, 'matrix'))
 */
export function numbersIn(node: XmlNode | undefined): number[] {
  const words = node?.text.trim().split(/\s+/) ?? []
  return words[0] === ''
    ? []
    : words.map((word) => {
        const value = Number(word)
        if (!Number.isFinite(value)) throw new Error(`“${word.slice(0, 20)}” is no number`)
        return value
      })
}
