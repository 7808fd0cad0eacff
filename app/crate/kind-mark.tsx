const tints = [
  '#6b5746',
  '#8a742f',
  '#8e7a5a',
  '#2f7866',
  '#454b4c',
  '#a8523a',
  '#5a6878',
  '#4f7a35',
  '#7a4f2e',
  '#a98a2f',
  '#6c4763',
]

/** A small crate in a tint of the kind's own, to tell items apart in a list. */
export function KindMark({ kind }: { kind: string }) {
  const number = [...kind].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 997, 7)
  const tint = tints[number % tints.length]
  return (
    <span className="yard-ground grid size-8 shrink-0 place-items-center rounded" aria-hidden="true">
      <svg width="18" height="16" viewBox="0 0 18 16">
        <path d="M2 5 6 1.500h10L14 5z" fill={tint} opacity="0.65" />
        <path d="M2 5h12v9H2z" fill={tint} />
        <path d="M14 5l2-3.500v8L14 14z" fill={tint} opacity="0.8" />
      </svg>
    </span>
  )
}
