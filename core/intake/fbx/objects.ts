import { childOf, childrenOf, idOf, objectName, textOf, type FbxNode } from './tree.ts'

/** An object of the file: what stands under `Objects`, with its identifier. */
export interface FbxObject {
  id: string
  /** “Model”, “Geometry”, “Material” and so on. */
  type: string
  /** “Mesh”, “LimbNode”, “Light” and so on. */
  kind: string
  name: string
  node: FbxNode
}

export interface FbxLink {
  object: FbxObject
  /** Property of the parent that it is linked to, for links that have one. */
  property: string
}

/** The objects of a file and what hangs on what. */
export class FbxObjects {
  readonly all: FbxObject[] = []
  private readonly byId = new Map<string, FbxObject>()
  private readonly childLinks = new Map<string, FbxLink[]>()
  private readonly parentLinks = new Map<string, FbxLink[]>()

  constructor(root: FbxNode) {
    for (const node of childOf(root, 'Objects')?.children ?? []) {
      const object: FbxObject = {
        id: idOf(node.values[0]),
        type: node.name,
        kind: textOf(node, 2),
        name: objectName(node.values[1]),
        node,
      }
      this.all.push(object)
      this.byId.set(object.id, object)
    }
    for (const link of childrenOf(childOf(root, 'Connections'), 'C'))
      this.link(idOf(link.values[1]), idOf(link.values[2]), textOf(link, 3))
  }

  /** Objects linked below one, of a type, in the order of the file. */
  children(of: FbxObject, type: string): FbxLink[] {
    return (this.childLinks.get(of.id) ?? []).filter((link) => link.object.type === type)
  }

  parents(of: FbxObject, type: string): FbxLink[] {
    return (this.parentLinks.get(of.id) ?? []).filter((link) => link.object.type === type)
  }

  ofType(type: string): FbxObject[] {
    return this.all.filter((object) => object.type === type)
  }

  private link(childId: string, parentId: string, property: string): void {
    const [child, parent] = [this.byId.get(childId), this.byId.get(parentId)]
    if (!child || !parent) return
    add(this.childLinks, parentId, { object: child, property })
    add(this.parentLinks, childId, { object: parent, property })
  }
}

function add(links: Map<string, FbxLink[]>, id: string, link: FbxLink): void {
  const list = links.get(id)
  if (list) list.push(link)
  else links.set(id, [link])
}
