import type { Game } from '../../../core/game/game'
import { Volume2, VolumeX } from 'lucide-react'
import { useEffect } from 'react'
import type { SceneData } from '../../workers/scene-data'
import { closeYard, openYard, type YardSubject } from '../../workers/clients'
import { tellError } from '../../ui/notify'
import { actionTitles } from './controls'
import { runInWords } from './run-in-words'
import { ask, endPlay, takeFrame, usePlay } from './play-state'

interface PlayBarProps {
  subject: YardSubject
  game: Game
  /** What stands in the yard: where the figure begins follows from it. */
  scene: SceneData
  loose: boolean
}

/** Starts and ends trying a thing in the yard; meanwhile, what can be done and what is touched. */
export function PlayBar({ subject, game, scene, loose }: PlayBarProps) {
  const playing = usePlay((state) => state.subject !== null)
  const courses = usePlay((state) => (state.frame?.run ?? null) !== null)
  useEffect(
    () => () => {
      closeYard()
      endPlay()
    },
    [],
  )
  const start = (): void => {
    usePlay.setState({ subject, game, frame: null, happened: [], asked: [], touched: null })
    openYard(subject, game, startOf(scene), takeFrame).catch((error: unknown) => {
      endPlay()
      tellError(error)
    })
    // The yard hears the keys.
    requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-yard]')?.focus())
  }
  const end = (): void => {
    closeYard()
    endPlay()
  }
  if (!playing)
    return (
      <button type="button" className="button-main absolute right-3 bottom-3 z-10" onClick={start}>
        Try it in the yard
      </button>
    )
  return (
    <>
      <PlayStatus />
      <div
        role="group"
        aria-label="What the figure does"
        className="absolute bottom-3 left-1/2 z-10 flex -translate-x-1/2 items-center gap-1.5"
      >
        <span className="chip whitespace-nowrap">arrow keys walk, drag looks round</span>
        {actionTitles
          .filter((each) => loose || !each.loose)
          .map(({ action, title, key }) => (
            <button
              key={action}
              type="button"
              className="button px-2 py-0.5 text-[13px] whitespace-nowrap"
              onClick={() => {
                ask(action)
                document.querySelector<HTMLElement>('[data-yard]')?.focus()
              }}
            >
              {title} <kbd className="num text-[11px] text-ink-2">{key}</kbd>
            </button>
          ))}
        {courses && <EdgesButton />}
        <SoundButton />
        <button type="button" className="button px-2 py-0.5 text-[13px] whitespace-nowrap" onClick={end}>
          Leave the yard
        </button>
      </div>
    </>
  )
}

function SoundButton() {
  const sound = usePlay((state) => state.sound)
  return (
    <button
      type="button"
      className="button px-1.5 py-1"
      aria-pressed={sound}
      aria-label="Sound of knocks"
      title="Sound of knocks"
      onClick={() => usePlay.setState({ sound: !sound })}
    >
      {sound ? <Volume2 size={15} aria-hidden="true" /> : <VolumeX size={15} aria-hidden="true" />}
    </button>
  )
}

const rounded = (value: number): string => (Math.round(value * 10) / 10 + 0).toFixed(1)

function EdgesButton() {
  const mindsEdges = usePlay((state) => state.mindsEdges)
  return (
    <button
      type="button"
      className={`button px-2 py-0.5 text-[13px] whitespace-nowrap ${mindsEdges ? 'bg-kraft-wash' : ''}`}
      aria-pressed={mindsEdges}
      onClick={() => {
        usePlay.setState({ mindsEdges: !mindsEdges })
        document.querySelector<HTMLElement>('[data-yard]')?.focus()
      }}
    >
      Stop at edges
    </button>
  )
}

/** How a run stands: what was taken, how often one fell, whether one has arrived. */
function RunStatus() {
  const told = usePlay((state) => {
    const run = state.frame?.run
    return run ? runInWords(run) : null
  })
  return told === null ? null : (
    <p className="chip font-semibold" role="status" aria-label="The run">
      {told}
    </p>
  )
}

/** What events have done so far, the latest first. */
function Happened() {
  const told = usePlay((state) =>
    state.happened
      .slice(-4)
      .map(({ seconds, words }) => `${seconds.toFixed(1)} s · ${words}`)
      .join('\n'),
  )
  return told ? (
    <ol className="flex flex-col-reverse gap-1" aria-label="What has happened" aria-live="polite">
      {told.split('\n').map((line) => (
        <li key={line} className="chip num text-[12px]">
          {line}
        </li>
      ))}
    </ol>
  ) : null
}

/** Where the figure stands and what it touches, in words. */
function PlayStatus() {
  const place = usePlay((state) => state.frame?.feet.map(rounded).join(', ') ?? null)
  const touch = usePlay((state) =>
    state.frame?.touches ? `${state.frame.touches.surface}: ${state.frame.touches.solid}` : null,
  )
  const rides = usePlay((state) => state.frame?.ridesOn ?? null)
  const carries = usePlay((state) => state.frame?.carries ?? null)
  const broken = usePlay((state) => state.frame?.broken.at(-1) ?? null)
  return (
    <div className="absolute top-[46px] left-3 z-10 flex gap-1.5">
      <p className="chip num" aria-label="Where the figure stands">
        {place ?? 'Opening the yard…'}
      </p>
      <p className="chip font-semibold" role="status">
        {broken
          ? `${broken.item} broke and leaves ${broken.remains}`
          : carries
            ? `carries ${carries}`
            : rides
              ? `rides on ${rides}`
              : touch
                ? `touches ${touch}`
                : 'touches nothing'}
      </p>
      <RunStatus />
      <Happened />
    </div>
  )
}

/** Before the item, a few steps off, where the usual view looks from. */
function startOf(scene: SceneData): [number, number, number] {
  const parts = scene.parts.filter((part) => part.role === 'part')
  const high = Math.max(0, ...parts.map((part) => part.bounds.max[2]))
  const middle =
    parts.length > 0
      ? (Math.min(...parts.map((part) => part.bounds.min[0])) + Math.max(...parts.map((part) => part.bounds.max[0]))) /
        2
      : 0
  return [middle, 0, high + 3.5]
}
