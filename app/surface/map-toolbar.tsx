import type { Rulebook } from '../../core/game/schema'
import type { MapFacts, MapPicture } from '../workers/map-messages'
import { layoutTitles, layoutViews } from './draw-layout'
import { Chip, Chips, codecsFor, SideChooser } from './map-controls'
import type { MapView } from './map-view'
import { channelTitles, channelViews, type Zoom } from './map-viewer'

interface MapToolbarProps {
  view: MapView
  onChange: (change: Partial<MapView>) => void
  map: MapFacts | null
  left: MapPicture | null
  right: MapPicture | null
  rulebook: Rulebook
  /** Whether each side can be chosen: not while a step is open, whose before and after they are. */
  sides: boolean
  /** Whether surfaces lie on the map. */
  hasLayout: boolean
}

const zooms: readonly { value: Zoom; label: string }[] = [
  { value: 'fit', label: 'Whole' },
  { value: 1, label: '1 : 1' },
  { value: 4, label: '4 : 1' },
]

/** How the map is shown: channels, size, mipmap, what stands at each side. */
export function MapToolbar({ view, onChange, map, left, right, rulebook, sides, hasLayout }: MapToolbarProps) {
  return (
    <div
      role="group"
      aria-label="How the map is shown"
      className="absolute top-2.5 right-2.5 left-2.5 z-10 flex flex-wrap items-center gap-x-2.5 gap-y-1.5"
    >
      <Chips
        label="Channels"
        options={channelViews.map((value) => ({ value, label: channelTitles[value] }))}
        value={view.channel}
        onChange={(channel) => onChange({ channel })}
      />
      <Chip pressed={view.difference} onClick={() => onChange({ difference: !view.difference })} disabled={!left}>
        Difference × 8
      </Chip>
      <Chips
        label="Size on the screen"
        options={[...zooms]}
        value={view.zoom}
        onChange={(zoom) => onChange({ zoom })}
      />
      <label className="chip flex items-center gap-1.5">
        Mip
        <select
          className="bg-transparent"
          value={view.level}
          onChange={(event) => onChange({ level: Number(event.target.value) })}
        >
          {Array.from({ length: right?.levels ?? 1 }, (_, each) => (
            <option key={each} value={each}>
              {each}: {Math.max(1, (map?.width ?? 1) >> each)} × {Math.max(1, (map?.height ?? 1) >> each)}
            </option>
          ))}
        </select>
      </label>
      {sides && map && (
        <>
          <SideChooser
            label="Left"
            value={view.left}
            codecs={codecsFor(rulebook, map)}
            onChange={(value) => onChange({ left: value })}
          />
          <SideChooser
            label="Right"
            value={view.right}
            codecs={codecsFor(rulebook, map)}
            onChange={(value) => onChange({ right: value })}
          />
        </>
      )}
      <Chip pressed={view.repeat} onClick={() => onChange({ repeat: !view.repeat })}>
        Repeated
      </Chip>
      {hasLayout && (
        <Chips
          label="UVs"
          options={layoutViews.map((value) => ({ value, label: layoutTitles[value] }))}
          value={view.layout}
          onChange={(layout) => onChange({ layout })}
        />
      )}
    </div>
  )
}
