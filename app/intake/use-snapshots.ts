import { useEffect, useState } from 'react'
import type { SceneData } from '../workers/scene-data'
import type { Snapshot, View } from '../drawing/snapshot'

/** Pictures of a scene from several views, made when they are first asked for; the drawing code is loaded only then. */
export function useSnapshots(scene: SceneData | null, views: readonly View[], wanted: boolean): Snapshot[] {
  const [made, setMade] = useState<{ scene: SceneData; views: readonly View[]; snapshots: Snapshot[] } | null>(null)
  useEffect(() => {
    if (!wanted || !scene || (made?.scene === scene && made.views === views)) return
    let current = true
    void import('../drawing/snapshot').then(({ takeSnapshots }) => {
      if (current) setMade({ scene, views, snapshots: takeSnapshots(scene, views) })
    })
    return () => {
      current = false
    }
  }, [scene, views, wanted, made])
  return made?.scene === scene && made?.views === views ? made.snapshots : []
}
