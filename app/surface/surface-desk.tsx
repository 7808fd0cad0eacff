import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { JudgedFinding } from '../../core/crate/waivers'
import { kindOf } from '../../core/game/load'
import { readWrittenName } from '../../core/game/material-tag'
import { useCrate } from '../crate/use-crate'
import { useUvLayout } from '../queries/item-queries'
import type { ItemRun } from '../queries/runs'
import { useYardView } from '../yard/yard-view'
import { LayoutNote } from './layout-note'
import { pictureTitle, sideTitle } from './map-controls'
import { MapStrip } from './map-strip'
import { MapToolbar } from './map-toolbar'
import { freshMapView, type MapView } from './map-view'
import { MapViewer } from './map-viewer'
import { PunchedCard } from './punched-card'
import { useCard } from './use-card'
import { useComparedMaps } from './use-compared-maps'
import { usePreview } from './use-preview'

interface SurfaceDeskProps {
  item: CrateItem
  run: ItemRun | undefined
  findings: readonly JudgedFinding[]
  selected: string | null
  onSelect: (map: string) => void
}

/** The item's maps: as they came beside as they are packed, or before and after the step whose card is open. */
export function SurfaceDesk({ item, run, findings, selected, onSelect }: SurfaceDeskProps) {
  const { rulebook, game } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const [view, setView] = useState(freshMapView(kind.mesh === null))
  const change = (part: Partial<MapView>): void => setView((before) => ({ ...before, ...part }))
  const { maps, map, after, left, right, openedIndex, ready } = useComparedMaps(item, game, run, selected, view)
  const opened = useCard(item, map, ready)
  const openedEntry = openedIndex >= 0 ? item.worklist[openedIndex] : null
  const pixelwise = run?.evaluation?.steps.find((step) => step.id === openedEntry?.step)?.pixelwise === true
  // While the exact result is on its way, the step that was changed is tried on small pictures.
  const draft = useYardView((state) => state.draft)
  const changing = openedEntry && pixelwise ? openedIndex : (opened?.index ?? -1)
  const entry = changing >= 0 ? item.worklist[changing] : null
  const tried = usePreview(
    item,
    game,
    entry && map && (!right || draft)
      ? {
          index: changing,
          parameters: { ...entry.parameters, ...(draft?.entry === entry.id ? { [draft.key]: draft.value } : {}) },
          material: readWrittenName(rulebook, map.materials[0] ?? '').base,
          role: map.key,
        }
      : null,
  )
  const layout = useUvLayout(
    item,
    game,
    view.layout !== 'none' && map?.packed ? { steps: after, name: map.name } : null,
  )
  const problems = new Set(
    findings.filter((finding) => finding.waived === null).flatMap((finding) => finding.place.texture ?? []),
  )

  if (ready && maps.length === 0) return <EmptyDesk />
  return (
    <section aria-label="Maps of the item" className="flex min-h-0 flex-1 flex-col">
      <MapStrip maps={[...maps]} selected={map?.name ?? null} problems={problems} onSelect={onSelect} />
      <div className="flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <MapViewer
            left={left}
            right={tried ?? right}
            pixels={
              map
                ? { width: Math.max(1, map.width >> view.level), height: Math.max(1, map.height >> view.level) }
                : null
            }
            channel={view.channel}
            isColour={map?.key === 'colour'}
            repeat={view.repeat}
            difference={view.difference}
            zoom={view.zoom}
            layout={layout}
            layoutView={view.layout}
            leftTitle={openedEntry ? 'Before the step' : sideTitle(view.left, left)}
            rightTitle={
              tried
                ? 'After it, at a glance'
                : openedEntry
                  ? `After it · ${pictureTitle(right)}`
                  : sideTitle(view.right, right)
            }
          />
          <MapToolbar
            view={view}
            onChange={change}
            map={map}
            left={left}
            right={right}
            rulebook={rulebook}
            sides={openedEntry === null}
            hasLayout={kind.mesh !== null}
          />
          {layout && map && view.layout !== 'none' && <LayoutNote layout={layout} map={map} />}
        </div>
        {opened && (
          <PunchedCard
            card={opened.card}
            field={opened.field}
            file={map?.role === opened.card.output ? map.name : `${opened.card.material}, ${opened.card.output}`}
            format={
              map?.codec
                ? `${rulebook.files.texture.writer.toUpperCase()} · ${map.codec.toUpperCase()}`
                : opened.card.output
            }
            onChange={opened.onChange}
          />
        )}
      </div>
    </section>
  )
}

function EmptyDesk() {
  return (
    <section aria-label="Maps of the item" className="grid min-h-0 flex-1 place-items-center">
      <p className="max-w-md text-center text-ink-2">
        No material shows a map. Add the step <b>Palette</b> for plain colours, <b>Unwrap</b> for what has no UVs, or
        bring pictures to the item at <b>Intake</b>.
      </p>
    </section>
  )
}
