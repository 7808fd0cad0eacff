import type { Animation, Document, Node } from '@gltf-transform/core'

/** A clip under a name that no other has. */
export interface NamedClip {
  name: string
  clip: Animation
}

/**
 * The clips of an item, each under a name of its own: a second “walk” is “walk (2)”.
 *
 * @example namedClips(document).map(({ name }) => name)
 */
export function namedClips(document: Document): NamedClip[] {
  const seen = new Map<string, number>()
  return document
    .getRoot()
    .listAnimations()
    .map((clip) => {
      const name = clip.getName() || 'clip'
      const count = (seen.get(name) ?? 0) + 1
      seen.set(name, count)
      return { name: count === 1 ? name : `${name} (${count})`, clip }
    })
}

/** What a clip moves, each as a thing and a way. */
function waysOf(clip: Animation): [Node, string][] {
  return clip.listChannels().flatMap((channel): [Node, string][] => {
    const node = channel.getTargetNode()
    const path = channel.getTargetPath()
    return node && path !== null && path !== 'weights' ? [[node, path]] : []
  })
}

/**
 * Clips that can be played at once: the first of those that move one thing in one way, and all that move others.
 * @param first the clip that stays whatever it moves; the first of all where none is said
 * @returns names of the clips that stay, in their order
 *
 * @example const together = clipsApart(document, 'swing')
 */
export function clipsApart(document: Document, first?: string): string[] {
  const clips = namedClips(document)
  const moved = new Map<Node, Set<string>>()
  const kept = new Set<string>()
  const order = [...clips.filter(({ name }) => name === first), ...clips.filter(({ name }) => name !== first)]
  for (const { name, clip } of order) {
    const ways = waysOf(clip)
    if (ways.some(([node, path]) => moved.get(node)?.has(path))) continue
    kept.add(name)
    for (const [node, path] of ways) moved.set(node, (moved.get(node) ?? new Set<string>()).add(path))
  }
  return clips.map(({ name }) => name).filter((name) => kept.has(name))
}
