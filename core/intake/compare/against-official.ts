import type { Document } from '@gltf-transform/core'
import { listViewParts } from '../../item/parts.ts'
import { fingerprintOf, overlap, samePlace, sameShape, type Fingerprint } from './fingerprint.ts'

/** What became of each part of a scene that holds an official object. */
export interface OfficialComparison {
  parts: {
    name: string
    state: 'untouched' | 'moved' | 'changed' | 'new'
    official: string | null
    triangles: number
  }[]
  /** Official parts that are not in the scene. */
  gone: string[]
}

const SAME_SPOT = 0.6

/**
 * Compares a scene with an official object, both in game units and axes, by shape and place; names only decide between
 * equals. A part whose shape is in neither, but which stands where an official part stood, is changed; all else is new.
 *
 * @example const fresh = compareWithOfficial(scene, official).parts.filter(({ state }) => state === 'new')
 */
export function compareWithOfficial(scene: Document, official: Document): OfficialComparison {
  const theirs = listViewParts(official).map(fingerprintOf)
  const ours = listViewParts(scene).map(fingerprintOf)
  const open = new Set(theirs)
  const answer = new Map<Fingerprint, OfficialComparison['parts'][number]>()
  const settle = (part: Fingerprint, state: 'untouched' | 'moved' | 'changed', match: Fingerprint): void => {
    open.delete(match)
    answer.set(part, { name: part.name, state, official: match.name, triangles: part.triangles })
  }
  const rounds: {
    state: 'untouched' | 'moved' | 'changed'
    fits: (part: Fingerprint, other: Fingerprint) => boolean
  }[] = [
    { state: 'untouched', fits: (part, other) => sameShape(part, other) && samePlace(part, other) },
    { state: 'moved', fits: (part, other) => sameShape(part, other) && part.name === other.name },
    { state: 'moved', fits: sameShape },
    { state: 'changed', fits: (part, other) => part.name === other.name && overlap(part.bounds, other.bounds) > 0.1 },
    { state: 'changed', fits: (part, other) => overlap(part.bounds, other.bounds) > SAME_SPOT },
  ]
  for (const { state, fits } of rounds) {
    for (const part of ours) {
      if (answer.has(part)) continue
      const candidates = [...open].filter((other) => fits(part, other))
      const match = candidates.find((other) => other.name === part.name) ?? candidates[0]
      if (match) settle(part, state, match)
    }
  }
  return {
    parts: ours.map(
      (part) => answer.get(part) ?? { name: part.name, state: 'new', official: null, triangles: part.triangles },
    ),
    gone: [...open].map((part) => part.name),
  }
}
