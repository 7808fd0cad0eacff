import { Wipe } from '../ui/wipe'
import type { SceneData } from '../workers/scene-data'
import { trianglesOf } from '../yard/yard-framing'
import { changeYardView, useYardView } from '../yard/yard-view'
import { CompareBar } from './compare-bar'
import type { Compared } from './use-compared'

interface CompareOverlayProps {
  compared: Compared
  titles: readonly { steps: number; title: string }[]
  /** What stands at the right in the meantime. */
  subject: SceneData | null
  showLeft: boolean
  onTurnOver: () => void
}

/** What is said and moved over two states that are set against each other. */
export function CompareOverlay({ compared, titles, subject, showLeft, onTurnOver }: CompareOverlayProps) {
  const { mode, wipe, left, right, other } = compared
  const compare = useYardView((state) => state.compare)
  return (
    <>
      {mode === 'wipe' && other && compare && (
        <Wipe
          value={wipe}
          left={titles[left].title}
          right={titles[right].title}
          onChange={(moved) => changeYardView({ compare: { ...compare, wipe: moved } })}
        />
      )}
      <CompareBar
        states={[...titles]}
        mode={mode}
        left={left}
        right={right}
        wipe={wipe}
        triangles={{ left: other ? trianglesOf(other.scene) : null, right: subject ? trianglesOf(subject) : null }}
        waiting={!other || !compared.shown}
      />
      {mode === 'flicker' && (
        <button
          type="button"
          className="chip absolute bottom-3 left-1/2 z-10 -translate-x-1/2 font-semibold"
          onClick={onTurnOver}
        >
          {showLeft ? titles[left].title : titles[right].title} · show the other
        </button>
      )}
    </>
  )
}
