import { long, record, text, type FbxRecord, type Value } from './binary-tree.ts'

/** The number under which a thing of the file is known. */
export type ObjectId = number

/** Things of a file and what hangs on what. */
export class FbxObjects {
  readonly objects: FbxRecord[] = []
  readonly connections: FbxRecord[] = []
  private next = 1_000_000

  /**
   * Adds an object.
   * @param type the name of its record, which is its class as well where no other is given
   * @param kind what it is among those of its class: `Mesh`
   */
  add(type: string, name: string, kind: string, children: readonly FbxRecord[], ofClass = type): ObjectId {
    const id = this.next++
    this.objects.push(record(type, [long(id), text(`${name}\u0000\u0001${ofClass}`), text(kind)], ...children))
    return id
  }

  /** Hangs one object on another, 0 being the scene, or on a property of it. */
  connect(child: ObjectId, parent: ObjectId, property?: string): void {
    const values: Value[] = [text(property === undefined ? 'OO' : 'OP'), long(child), long(parent)]
    this.connections.push(record('C', property === undefined ? values : [...values, text(property)]))
  }

  /** How many objects there are of each type, as the file's definitions say. */
  counts(): Map<string, number> {
    const counts = new Map<string, number>()
    for (const { name } of this.objects) counts.set(name, (counts.get(name) ?? 0) + 1)
    return counts
  }
}
