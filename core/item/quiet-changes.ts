import { Property, type Document } from '@gltf-transform/core'

/** How often anything in a graph was set, made or removed. */
const changes = Symbol('changes')

interface Counted {
  [changes]?: number
}

interface Announcement {
  type: string
}

interface Announcer {
  graph: Counted
  dispatchEvent: (event: Announcement) => unknown
  copy: (...given: unknown[]) => unknown
}

/**
 * Keeps documents from announcing each value that is set: only what is made and removed is ever listened to, here and
 * in the library, and the announcements were a sixth of the time of an item of a thousand parts. They are counted
 * instead.
 */
function quietChanges(): void {
  const property = Property.prototype as unknown as Announcer
  const node = Object.getPrototypeOf(property) as Announcer
  const count = ({ graph }: Announcer): void => {
    graph[changes] = (graph[changes] ?? 0) + 1
  }
  const { dispatchEvent } = node
  node.dispatchEvent = function (this: Announcer, event: Announcement): unknown {
    count(this)
    return event.type === 'change' ? this : dispatchEvent.call(this, event)
  }
  // The library sets what it copies without a word.
  const { copy } = property
  property.copy = function (this: Announcer, ...given: unknown[]): unknown {
    count(this)
    return copy.apply(this, given)
  }
}

quietChanges()

/**
 * A number that is another whenever a document is: anything set, made, copied or removed in it. Numbers that are
 * written into the arrays of its accessors do not count.
 *
 * @example const before = changesOf(document)
 */
export const changesOf = (document: Document): number => (document.getGraph() as unknown as Counted)[changes] ?? 0

/**
 * The same function of a document, that answers from memory as long as nothing in the document has changed. The answer
 * is shared, and must not be changed.
 * @param work reads the document, but no array of its accessors
 *
 * @example const countNodes = rememberUntilChanged((document) => document.getRoot().listNodes().length)
 */
export function rememberUntilChanged<R>(work: (document: Document) => R): (document: Document) => R {
  const known = new WeakMap<Document, { count: number; answer: R }>()
  return (document) => {
    const last = known.get(document)
    if (last?.count === changesOf(document)) return last.answer
    const answer = work(document)
    // What the work itself makes, such as a scene that was missing, does not count.
    known.set(document, { count: changesOf(document), answer })
    return answer
  }
}
