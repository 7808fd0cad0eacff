import type { useCrate } from '../crate/use-crate'
import { download } from '../ui/download'
import type { MapFacts, MapPicture } from '../workers/map-messages'

export const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(2)} MB`

export function pictureTitle(picture: MapPicture | null): string {
  if (!picture) return '…'
  const loss =
    picture.meanAngleDegrees !== null
      ? ` · ${picture.meanAngleDegrees.toFixed(2)}° off`
      : picture.psnrDecibels !== null
        ? ` · ${picture.psnrDecibels.toFixed(1)} dB`
        : ''
  const worst =
    picture.worstBlock && picture.level === 0 ? `, worst block ${picture.worstBlock.psnrDecibels.toFixed(1)}` : ''
  return (
    `${picture.codec ? picture.codec.toUpperCase() : '32 bits a pixel'} · ` +
    `${megabytes(picture.memory)}${loss}${worst}`
  )
}

export const sideTitle = (side: string, picture: MapPicture | null): string =>
  `${side === 'drawn' ? 'As drawn' : side === 'kept' ? 'As packed' : 'Tried'} · ${pictureTitle(picture)}`

/** The codecs that the game reads for a map, and the others for comparison. */
export const codecsFor = (rulebook: ReturnType<typeof useCrate>['rulebook'], map: MapFacts): string[] =>
  [
    ...new Set<string>([
      ...(rulebook.maps.roles.find((role) => role.role === map.role)?.codecs ?? []),
      'bc1',
      'bc3',
      'bc7',
    ]),
  ].filter((codec) => codec !== 'none')

export function SideChooser({
  label,
  value,
  codecs,
  onChange,
}: {
  label: string
  value: string
  codecs: readonly string[]
  onChange: (value: string) => void
}) {
  return (
    <label className="chip flex items-center gap-1.5">
      {label}
      <select className="bg-transparent" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="drawn">as drawn</option>
        <option value="kept">as packed</option>
        {codecs.map((codec) => (
          <option key={codec} value={codec}>
            {codec.toUpperCase()} tried
          </option>
        ))}
      </select>
    </label>
  )
}

export function Chips<T extends string | number>({
  label,
  options,
  value,
  onChange,
}: {
  label: string
  options: readonly { value: T; label: string }[]
  value: T
  onChange: (value: T) => void
}) {
  return (
    <div role="group" aria-label={label} className="flex gap-1">
      {options.map((option) => (
        <Chip key={option.value} pressed={option.value === value} onClick={() => onChange(option.value)}>
          {option.label}
        </Chip>
      ))}
    </div>
  )
}

export function Chip({
  pressed,
  disabled,
  onClick,
  children,
}: {
  pressed: boolean
  disabled?: boolean
  onClick: () => void
  children: React.ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      className={
        'rounded-full border px-2.5 py-0.5 text-[12.5px] font-semibold disabled:opacity-60 ' +
        `${pressed ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`
      }
    >
      {children}
    </button>
  )
}

/** The layout as a picture of the map's own size. */
export async function downloadLayoutPng(svg: string, map: MapFacts): Promise<void> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(map.width, 256)
  canvas.height = Math.max(map.height, 256)
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
  if (blob) download(new Uint8Array(await blob.arrayBuffer()), `${map.name}_layout.png`, 'image/png')
}
