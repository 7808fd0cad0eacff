import type { MapFacts } from '../workers/map-messages'

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(bytes < 100_000 ? 2 : 1)} MB`

/** What was lost, in the measure that suits the map. */
export const lossText = ({ quality }: Pick<MapFacts, 'quality'>): string =>
  !quality
    ? ''
    : quality.meanAngleDegrees !== null
      ? `${quality.meanAngleDegrees.toFixed(2)}°`
      : quality.psnrDecibels === null
        ? 'none'
        : `${quality.psnrDecibels.toFixed(1)} dB`

interface MapTableProps {
  maps: readonly MapFacts[]
  selected: string | null
  unit: string
  /** Whether the game reads maps in blocks, or pixels as they are. */
  inBlocks: boolean
  onSelect: (name: string) => void
}

/** What the maps take together on the card, beside the limit. */
export function MapMemory({ maps, limit }: { maps: readonly MapFacts[]; limit: number }) {
  const memory = maps.filter((map) => map.packed).reduce((sum, map) => sum + map.memory, 0)
  return (
    <span className={`num ${memory > limit ? 'font-semibold text-block' : ''}`}>
      {megabytes(memory)} of {megabytes(limit)}
    </span>
  )
}

/** The maps as they will be packed. */
export function MapTable({ maps, selected, unit, inBlocks, onSelect }: MapTableProps) {
  const packed = maps.filter((map) => map.packed)
  return (
    <>
      <table className="w-full border-collapse text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-ink-2">
            {['Map', 'Size', 'Block', 'Mips', 'On the card', 'Loss', `Texels a ${unit}`].map((title) => (
              <th key={title} scope="col" className="border-b border-dashed border-edge py-0.5 pr-2 font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {packed.map((map) => (
            <tr key={map.name} className={selected === map.name ? 'bg-spruce-wash' : ''}>
              <th scope="row" className="max-w-[190px] border-b border-dashed border-edge py-[3px] pr-2 text-left">
                <button
                  type="button"
                  className="block max-w-full truncate font-semibold hover:underline"
                  title={map.name}
                  onClick={() => onSelect(map.name)}
                >
                  {map.name}
                </button>
              </th>
              {[
                map.width === map.height ? `${map.width}²` : `${map.width} × ${map.height}`,
                map.codec?.toUpperCase() ?? (inBlocks ? 'not yet' : 'none'),
                String(map.mipmaps),
                megabytes(map.memory),
                lossText(map),
                map.density === null ? '' : map.density.toFixed(map.density < 10 ? 1 : 0),
              ].map((text, index) => (
                <td key={index} className="num border-b border-dashed border-edge py-[3px] pr-2 whitespace-nowrap">
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {packed.length === 0 && <p className="py-2 text-[13px] text-ink-2">No material shows a map yet.</p>}
    </>
  )
}
