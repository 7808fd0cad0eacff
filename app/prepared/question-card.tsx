import { Radio, RadioGroup } from '@headlessui/react'
import { useMemo } from 'react'
import type { Question } from '../../core/questions/question'
import type { Rulebook } from '../../core/game/schema'
import { useSnapshots } from '../intake/use-snapshots'
import type { SceneData } from '../workers/scene-data'
import type { View } from '../drawing/snapshot'
import { AnswerPicture } from './answer-picture'

interface QuestionCardProps {
  question: Question
  /** The source as it came, for pictures of the answers; null while it is read. */
  scene: SceneData | null
  axes: Pick<View, 'up' | 'forward'>
  rulebook: Rulebook
  disabled: boolean
  onAnswer: (answer: Question['answers'][number]) => void
}

/** One question with its answers, each with its picture and number; the one that is taken until somebody says otherwise
 * is marked. */
export function QuestionCard({ question, scene, axes, rulebook, disabled, onAnswer }: QuestionCardProps) {
  const views = useMemo(() => viewsOf(question, axes), [question, axes])
  const snapshots = useSnapshots(scene, views, views.length > 0)
  return (
    <div className="flex min-h-0 flex-col">
      <h2 className="text-[15px] leading-tight font-semibold">{question.title}</h2>
      <p className="text-[12.5px] text-ink-2">{question.why}</p>
      <RadioGroup
        value={question.chosen}
        aria-label={question.title}
        disabled={disabled}
        className="mt-1.5 grid grid-cols-4 gap-2"
      >
        {question.answers.map((answer, index) => (
          <Radio
            key={answer.id}
            value={answer.id}
            onClick={() => {
              if (!disabled) onAnswer(answer)
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && !disabled) onAnswer(answer)
            }}
            className="cursor-pointer rounded-lg border border-edge-strong bg-paper p-1.5 text-[12.5px] leading-tight hover:border-spruce data-checked:border-2 data-checked:border-spruce data-checked:bg-spruce-wash data-disabled:cursor-default data-disabled:opacity-60"
          >
            {answer.picture && (
              <AnswerPicture
                picture={answer.picture}
                snapshot={snapshots[answer.picture.of === 'view' ? index : 0]?.url ?? null}
                rulebook={rulebook}
              />
            )}
            <b className="mt-1 block font-semibold">{answer.label}</b>
            <span className="block text-[11.5px] text-ink-2">{answer.note}</span>
            {answer.id === question.chosen && (
              <span className="block text-[11.5px] font-semibold text-clear">
                {question.answered ? 'your answer' : 'taken for now'}
              </span>
            )}
          </Radio>
        ))}
      </RadioGroup>
    </div>
  )
}

/** The views that a question's pictures need: its own, or one from the front to set beside the figure. */
function viewsOf({ answers }: Question, axes: Pick<View, 'up' | 'forward'>): View[] {
  if (answers.some(({ picture }) => picture?.of === 'size')) return [{ ...axes, askew: false }]
  return answers.flatMap(({ picture }) =>
    picture?.of === 'view' ? [{ up: picture.up, forward: picture.forward, askew: true }] : [],
  )
}
