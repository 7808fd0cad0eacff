import { plural } from '../ui/format'
import { Wipe } from '../ui/wipe'
import type { SceneData } from '../workers/scene-data'
import { trianglesOf } from '../yard/yard-framing'
import { changeYardView, useYardView } from '../yard/yard-view'
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
      {mode === 'side' && (
        <>
          <SideTitle at="left-[25%]" title={titles[left].title} scene={other?.scene ?? null} />
          <SideTitle at="left-[75%]" title={titles[right].title} scene={subject} />
        </>
      )}
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

const SideTitle = ({ at, title, scene }: { at: string; title: string; scene: SceneData | null }) => (
  <p className={`chip absolute bottom-3 z-10 -translate-x-1/2 ${at}`}>
    <b className="font-semibold">{title}</b>{' '}
    {scene && <span className="num">{plural(trianglesOf(scene), 'triangle')}</span>}
  </p>
)
