import { allOf, firstOf, idOfUrl, numbersOf, wordsOf, type XmlElement } from '../../support/xml.ts'

/** Every element with an id, and the arrays that sources hold. */
export class ColladaLibrary {
  private readonly byId = new Map<string, XmlElement>()
  private readonly arrays = new Map<XmlElement, ColladaSource>()

  constructor(readonly root: XmlElement) {
    const queue = [root]
    while (queue.length > 0) {
      const element = queue.pop() as XmlElement
      const { id } = element.attributes
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, element)
      queue.push(...element.children)
    }
  }

  /** The element that a URL (“#id”) or a bare id means. */
  find(url: string | undefined): XmlElement | undefined {
    return url === undefined ? undefined : this.byId.get(idOfUrl(url))
  }

  /** Elements of a library: `all('geometries', 'geometry')`. */
  all(library: string, name: string): XmlElement[] {
    return allOf(this.root, `library_${library}`).flatMap((each) => allOf(each, name))
  }

  source(url: string | undefined): ColladaSource | null {
    const element = this.find(url)
    if (!element) return null
    const known = this.arrays.get(element)
    if (known) return known
    const accessor = firstOf(element, 'technique_common', 'accessor')
    const array =
      this.find(accessor?.attributes['source']) ?? element.children.find((child) => child.name.endsWith('_array'))
    const isText = array?.name === 'Name_array' || array?.name === 'IDREF_array'
    const source: ColladaSource = {
      stride: Math.max(
        1,
        Number(accessor?.attributes['stride']) || (accessor ? Math.max(1, allOf(accessor, 'param').length) : 1),
      ),
      offset: Math.max(0, Number(accessor?.attributes['offset']) || 0),
      numbers: isText ? new Float64Array(0) : numbersOf(array),
      words: isText ? wordsOf(array) : [],
    }
    this.arrays.set(element, source)
    return source
  }
}

export interface ColladaSource {
  /** Numbers an element takes. */
  stride: number
  offset: number
  numbers: Float64Array
  words: string[]
}

/**
 * Inputs of an element: meaning → source URL.
 * @example const places = inputsOf(triangles).find(({ semantic }) => semantic === 'VERTEX')
 */
export function inputsOf(
  element: XmlElement | undefined,
): { semantic: string; source: string; offset: number; set: number }[] {
  return allOf(element, 'input').map(({ attributes }) => ({
    semantic: attributes['semantic'] ?? '',
    source: attributes['source'] ?? '',
    offset: Math.min(64, Math.max(0, Number(attributes['offset']) || 0)),
    set: Number(attributes['set']) || 0,
  }))
}
