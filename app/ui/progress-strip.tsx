/** What a long job is doing, how far it is, and a way to stop it. */
export function ProgressStrip({
  title,
  doing,
  fraction,
  of,
  onStop,
}: {
  title: string
  doing: string
  fraction: number
  /** What the share is of: “of the steps”. */
  of: string
  onStop?: () => void
}) {
  const percent = Math.round(fraction * 100)
  return (
    <div className="flex items-center gap-3" role="status">
      <div className="min-w-0 flex-1">
        <div className="flex justify-between gap-4 text-[12.5px]">
          <span className="truncate">
            <b>{title}</b> {doing}
          </span>
          <span className="whitespace-nowrap">
            <span className="num">{percent} %</span> {of}
          </span>
        </div>
        <div
          className="mt-1 h-1.5 rounded bg-edge"
          role="progressbar"
          aria-valuenow={percent}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-label={`${title}, ${of}`}
        >
          <div className="h-full rounded bg-spruce-2 transition-[width]" style={{ width: `${percent}%` }} />
        </div>
      </div>
      {onStop && (
        <button type="button" className="button" onClick={onStop}>
          Stop
        </button>
      )}
    </div>
  )
}
