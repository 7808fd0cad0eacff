import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { ChevronDown } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Crate, CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/game/schema'
import type { SceneData } from '../workers/scene-data'
import { changeYardView, useYardView, type Companion } from '../yard/yard-view'

interface YardToolsProps {
  crate: Crate
  item: CrateItem
  rulebook: Rulebook
  result: SceneData | null
  picking: boolean
  onWhole: () => void
}

/** What one does to the view: compare, measure, set something beside, look from far, stretch, frame. */
export function YardTools({ crate, item, rulebook, result, picking, onWhole }: YardToolsProps) {
  const { compare, showSizes, companion, level, stretch, dusk, turned } = useYardView()
  const hasSteps = item.worklist.length > 0
  const levels = [
    ...new Set(result?.parts.filter((part) => part.role === 'level').map((part) => part.level) ?? []),
  ].sort((a, b) => a - b)
  return (
    <div className="flex flex-wrap gap-1.5">
      {!picking && (
        <>
          <Toggle
            on={compare !== null}
            disabled={!hasSteps}
            title={hasSteps ? undefined : 'There is no step yet, so both are the same'}
            onClick={() =>
              changeYardView({
                compare: compare ? null : { mode: 'wipe', left: 0, right: null, wipe: 0.5 },
                level: 0,
                playing: false,
              })
            }
          >
            Compare
          </Toggle>
          {levels.length > 0 && (
            <Toggle
              on={level !== 0}
              onClick={() => changeYardView({ level: level === 0 ? levels[0] : 0, playing: false, compare: null })}
            >
              Levels
            </Toggle>
          )}
        </>
      )}
      <BesideMenu crate={crate} item={item} rulebook={rulebook} on={companion !== null} />
      {!picking && (
        <Toggle
          on={stretch !== null}
          onClick={() => changeYardView({ stretch: stretch ? null : { axis: 0, factor: 1.5 } })}
        >
          Stretch
        </Toggle>
      )}
      {(result?.lights.length ?? 0) > 0 && (
        <Toggle on={dusk} onClick={() => changeYardView({ dusk: !dusk })}>
          Dusk
        </Toggle>
      )}
      {!picking && result?.turns && (
        <Toggle on={turned} onClick={() => changeYardView({ turned: !turned })}>
          Turns to you
        </Toggle>
      )}
      <Toggle on={showSizes} onClick={() => changeYardView({ showSizes: !showSizes })}>
        Sizes
      </Toggle>
      <button type="button" className="button px-2.5 text-[13px]" onClick={onWhole}>
        Whole item
      </button>
    </div>
  )
}

function Toggle({
  on,
  disabled,
  title,
  onClick,
  children,
}: {
  on: boolean
  disabled?: boolean
  title?: string
  onClick: () => void
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled}
      title={title}
      onClick={onClick}
      className={`button px-2.5 text-[13px] ${on ? 'bg-kraft-wash' : ''}`}
    >
      {children}
    </button>
  )
}

/** What can be set beside the item, or into it. */
function BesideMenu({ crate, item, rulebook, on }: { crate: Crate; item: CrateItem; rulebook: Rulebook; on: boolean }) {
  const { unit, figure, doorway } = rulebook.space
  const things: { title: string; thing: Companion }[] = [
    { title: `Cube of one ${unit.name}`, thing: { what: 'cube' } },
    { title: `Doorway, ${doorway.width} × ${doorway.height}`, thing: { what: 'doorway' } },
    { title: `Figure, ${figure.height} tall`, thing: { what: 'figure' } },
    ...rulebook.stock.objects.map((object) => ({
      title: object.title,
      thing: { what: 'stock' as const, id: object.id },
    })),
    ...crate.items
      .filter((other) => other.id !== item.id)
      .map((other) => ({ title: other.name, thing: { what: 'item' as const, id: other.id } })),
  ]
  return (
    <Menu>
      <MenuButton className={`button px-2.5 text-[13px] ${on ? 'bg-kraft-wash' : ''}`}>
        Beside <ChevronDown size={14} aria-hidden="true" />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-50 max-h-[360px] w-[240px] overflow-y-auto rounded-lg border border-edge-strong bg-slip p-1.5 text-[13px] shadow-lg [--anchor-gap:6px]"
      >
        {things.map(({ title, thing }) => (
          <MenuItem key={title}>
            <button
              type="button"
              onClick={() => changeYardView({ companion: { thing, inside: false } })}
              className="block w-full rounded px-2 py-1 text-left data-focus:bg-spruce-wash"
            >
              {title}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
