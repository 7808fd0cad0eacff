import type { ItemRun } from '../queries/runs'
import { yardLooks, type YardLook } from '../yard/yard-settings'
import { changeYardView } from '../yard/yard-view'

/** What went wrong with a run, over the yard, with a way to try again. */
export function RunTrouble({ run, onAgain }: { run: ItemRun | undefined; onAgain: () => void }) {
  if (run?.state !== 'failed' && run?.state !== 'stopped') return null
  return (
    <div
      className="absolute inset-x-0 top-1/3 z-20 mx-auto w-fit max-w-lg rounded-lg border border-edge-strong bg-slip p-4"
      role="alert"
    >
      <p>{run.message}</p>
      <button type="button" className="button mt-3" onClick={onAgain}>
        Run again
      </button>
    </div>
  )
}

/** As what the item is drawn. */
export function LookChips({ look, bends }: { look: YardLook; bends: boolean }) {
  return (
    <div role="group" aria-label="How the item is shown" className="flex flex-wrap gap-1.5">
      {yardLooks
        .filter(({ id }) => bends || id !== 'held')
        .map((each) => (
          <button
            key={each.id}
            type="button"
            aria-pressed={look === each.id}
            onClick={() => changeYardView({ look: each.id })}
            className={
              'rounded-full border px-2.5 py-0.5 text-[13px] font-semibold ' +
              `${look === each.id ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`
            }
          >
            {each.label}
          </button>
        ))}
    </div>
  )
}

/** How outward and inward faces are drawn. */
export function FacingLegend() {
  return (
    <p className="chip flex items-center gap-2">
      <span className="inline-block size-3 border border-edge-strong bg-slip" /> outward
      <span
        className="inline-block size-3 border border-block"
        style={{
          background: 'repeating-linear-gradient(-45deg, var(--color-block) 0 2px, var(--color-block-wash) 2px 4px)',
        }}
      />{' '}
      inward
    </p>
  )
}

/** How what a bone holds is drawn. */
export function HeldLegend() {
  const bands = (share: number): string =>
    `repeating-linear-gradient(45deg, #2f6b58 0 ${share * 8}px, var(--color-slip) ${share * 8}px 8px)`
  return (
    <p className="chip flex items-center gap-2">
      {[0, 0.3, 0.6, 1].map((share) => (
        <span
          key={share}
          className="inline-block size-3.5 border border-edge-strong"
          style={{ background: bands(share) }}
        />
      ))}
      <span>held not at all to wholly</span>
      <span
        className="inline-block size-3.5 border border-block"
        style={{ background: 'radial-gradient(circle, var(--color-block) 40%, var(--color-block-wash) 45%)' }}
      />
      <span>by none, or not 1 in all</span>
    </p>
  )
}
