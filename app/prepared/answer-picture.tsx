import type { Answer } from '../../core/questions/question'
import type { Rulebook } from '../../core/game/schema'
import { KindMark } from '../crate/kind-mark'
import { BesideFigure } from '../intake/beside-figure'

interface AnswerPictureProps {
  picture: NonNullable<Answer['picture']>
  /** The item as this answer would have it; null while it is drawn, or where nothing can be. */
  snapshot: string | null
  rulebook: Rulebook
}

/** What an answer would come to: the item so large beside the figure, so turned, or the mark of a kind. */
export function AnswerPicture({ picture, snapshot, rulebook }: AnswerPictureProps) {
  if (picture.of === 'size') return <BesideFigure size={picture.metres} picture={snapshot} rulebook={rulebook} />
  const kind = picture.of === 'kind' ? rulebook.kinds.find(({ id }) => id === picture.kind) : undefined
  return (
    <span className="grid h-[84px] place-items-center rounded border border-edge bg-slip">
      {kind ? (
        <KindMark kind={kind} size={56} />
      ) : snapshot ? (
        <img src={snapshot} alt="" className="max-h-[76px] max-w-full object-contain" />
      ) : (
        <span className="text-ink-2">…</span>
      )}
    </span>
  )
}
