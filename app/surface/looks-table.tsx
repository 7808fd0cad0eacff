import { Plus } from 'lucide-react'
import type { LookChain } from '../workers/map-messages'

interface LooksTableProps {
  looks: readonly LookChain[] | null
  /** Roles of the game's maps, with their titles. */
  roles: readonly { role: string; title: string; key: string }[]
  /** Shows a map above. */
  onSelect: (texture: string) => void
  /** Starts putting a picture into a place of the chain. */
  onPut: (place: { look: string; material: string; role: string }) => void
  onShading: () => void
}

/** The chain that the entry begins: each look, its materials with their shading, and the map of each role. */
export function LooksTable({ looks, roles, onSelect, onPut, onShading }: LooksTableProps) {
  if (!looks) return <p className="py-2 text-[13px] text-ink-2">Reading the looks…</p>
  const first = looks[0]?.materials[0]
  return (
    <>
      <table className="w-full border-collapse text-[12.5px]">
        <thead>
          <tr className="text-left text-[12px] text-ink-2">
            {['Look', 'Material', 'Shading', ...roles.map(({ title }) => title)].map((title) => (
              <th key={title} scope="col" className="border-b border-dashed border-edge py-0.5 pr-2 font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {looks.flatMap(({ look, file, materials }) =>
            materials.map((material, index) => (
              <tr key={`${look} ${material.name}`}>
                <th
                  scope="row"
                  className="max-w-[80px] truncate border-b border-dashed border-edge py-[3px] pr-2 text-left font-semibold"
                  title={file}
                >
                  {index === 0 ? look : ''}
                </th>
                <td
                  className="max-w-[110px] truncate border-b border-dashed border-edge py-[3px] pr-2"
                  title={material.name}
                >
                  {material.base}
                </td>
                <td className="border-b border-dashed border-edge py-[3px] pr-2">
                  <button
                    type="button"
                    className="link font-normal"
                    title="Chosen at Tag materials"
                    onClick={onShading}
                  >
                    {material.shading}
                  </button>
                </td>
                {roles.map(({ role, title, key }) => {
                  const map = material.maps.find((each) => each.role === role)
                  return (
                    <td key={role} className="max-w-[120px] border-b border-dashed border-edge py-[3px] pr-2">
                      <span className="flex items-center gap-1">
                        {map && (
                          <button
                            type="button"
                            className="min-w-0 truncate hover:underline"
                            title={`${map.file}${map.stock ? ', of the game’s own' : ''}`}
                            disabled={map.stock}
                            onClick={() => onSelect(map.texture)}
                          >
                            {map.texture}
                          </button>
                        )}
                        <button
                          type="button"
                          className="shrink-0 rounded border border-edge-strong p-px hover:border-spruce"
                          aria-label={
                            `${map ? 'Another' : 'Add a'} ${title.toLowerCase()} map for ${material.base} in ` +
                            `${look}`
                          }
                          title="Put in a picture"
                          onClick={() => onPut({ look, material: material.base, role: key })}
                        >
                          <Plus size={11} aria-hidden="true" />
                        </button>
                      </span>
                    </td>
                  )
                })}
              </tr>
            )),
          )}
        </tbody>
      </table>
      {first && (
        <button
          type="button"
          className="button mt-1.5 py-0 text-[12.5px]"
          onClick={() => onPut({ look: `look ${looks.length + 1}`, material: first.base, role: 'colour' })}
        >
          <Plus size={13} aria-hidden="true" /> Another look
        </button>
      )}
    </>
  )
}
