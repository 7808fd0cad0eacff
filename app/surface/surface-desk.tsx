import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { JudgedFinding } from '../../core/crate/waivers'
import { kindOf } from '../../core/game/load'
import { readWrittenName } from '../../core/game/material-tag'
import { useMapPicture, useMaps, useStepSettings, useUvLayout } from '../queries/item-queries'
import { useYardView } from '../yard/yard-view'
import type { SettledRun } from '../queries/runs'
import { useCrate } from '../crate/use-crate'
import { download } from '../ui/download'
import type { ChannelView } from './draw-picture'
import { layoutTitles, layoutViews, type LayoutView } from './draw-layout'
import { MapStrip } from './map-strip'
import { channelTitles, channelViews, MapViewer, type Zoom } from './map-viewer'
import { cardsSchema, PunchedCard } from './punched-card'
import { usePreview } from './use-preview'
import { pictureTitle, sideTitle, codecsFor, SideChooser, Chips, Chip, downloadLayoutPng } from './map-controls'

interface SurfaceDeskProps {
  item: CrateItem
  run: SettledRun | undefined
  findings: readonly JudgedFinding[]
  selected: string | null
  onSelect: (map: string) => void
}

/** The item's maps: as they came beside as they are packed, or before and after the step whose card is open. */
export function SurfaceDesk({ item, run, findings, selected, onSelect }: SurfaceDeskProps) {
  const { rulebook, game, send } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const opened = useYardView((view) => view.opened)
  const [channel, setChannel] = useState<ChannelView>('colour')
  const [zoom, setZoom] = useState<Zoom>('fit')
  const [level, setLevel] = useState(0)
  const [difference, setDifference] = useState(false)
  const [layoutView, setLayoutView] = useState<LayoutView>('none')
  const [repeat, setRepeat] = useState(kind.mesh === null)
  const [sides, setSides] = useState<{ left: string; right: string }>({ left: 'drawn', right: 'kept' })

  const ready = run?.evaluation && run.state === 'done'
  const stepOf = (id: string | null) =>
    run?.evaluation?.steps.find((step) => step.id === item.worklist.find((entry) => entry.id === id)?.step)
  const all = item.worklist.length
  const openedIndex = stepOf(opened)?.stage === 'surface' ? item.worklist.findIndex((entry) => entry.id === opened) : -1
  const compressing = item.worklist.findIndex((entry) => entry.step === 'compress-maps' && entry.on)
  const [before, after] = openedIndex >= 0 ? [openedIndex, openedIndex + 1] : [compressing < 0 ? all : compressing, all]
  const beforeMaps = useMaps(item, game, ready ? before : null)
  const afterMaps = useMaps(item, game, ready ? after : null)
  const maps = useLastKnown(afterMaps ?? beforeMaps) ?? []
  const name = maps.some((map) => map.name === selected) ? selected : (maps[0]?.name ?? null)
  const map = maps.find((each) => each.name === name)
  const leftIsThere = beforeMaps?.some((each) => each.name === name) ?? false
  // A codec that is tried starts from the pixels before they were compressed.
  const asked = (side: string, own: number): { steps: number; name: string; level: number; as: string } | null =>
    name === null || !ready
      ? null
      : side === 'drawn' || side === 'kept'
        ? { steps: own, name, level, as: 'kept' }
        : { steps: leftIsThere ? before : after, name, level, as: side }
  const right = useMapPicture(item, game, map ? asked(sides.right, after) : null)
  const left = useMapPicture(item, game, leftIsThere && before !== after ? asked(sides.left, before) : null)
  const cards = item.worklist.find((entry) => entry.step === 'pack-channels' && entry.on)
  const settings = useStepSettings(
    { ...item, worklist: item.worklist.slice(0, cards ? item.worklist.indexOf(cards) : 0) },
    game,
    ready && cards ? cards.step : null,
  )
  const field = settings?.fields.find((each) => each.type === 'cards')
  const cardValues = cards ? cardsSchema.parse(cards.parameters['cards']) : []
  const card =
    cardValues.find((each) => map && each.output === map.role && map.packed) ??
    (cards && cards.id === opened ? cardValues[0] : undefined)

  // While the exact result is on its way, the step that was changed is tried on small pictures.
  const draft = useYardView((view) => view.draft)
  const changing =
    openedIndex >= 0 && stepOf(opened)?.pixelwise ? openedIndex : card && cards ? item.worklist.indexOf(cards) : -1
  const trying =
    changing >= 0 && map && (!right || draft)
      ? {
          index: changing,
          parameters: {
            ...item.worklist[changing].parameters,
            ...(draft?.entry === item.worklist[changing].id ? { [draft.key]: draft.value } : {}),
          },
          material: readWrittenName(rulebook, map.materials[0] ?? '').base,
          role: map.key,
        }
      : null
  const tried = usePreview(item, game, trying)
  const layout = useUvLayout(item, game, layoutView !== 'none' && map?.packed ? { steps: after, name: map.name } : null)
  const problems = new Set(
    findings.filter((finding) => finding.waived === null).flatMap((finding) => finding.place.texture ?? []),
  )

  if (ready && maps.length === 0) return <EmptyDesk />
  return (
    <section aria-label="Maps of the item" className="flex min-h-0 flex-1 flex-col">
      <MapStrip maps={maps} selected={name} problems={problems} onSelect={onSelect} />
      <div className="flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <MapViewer
            left={left}
            right={tried ?? right}
            pixels={map ? { width: Math.max(1, map.width >> level), height: Math.max(1, map.height >> level) } : null}
            channel={channel}
            isColour={map?.key === 'colour'}
            repeat={repeat}
            difference={difference}
            zoom={zoom}
            layout={layout}
            layoutView={layoutView}
            leftTitle={openedIndex >= 0 ? 'Before the step' : sideTitle(sides.left, left)}
            rightTitle={
              tried
                ? 'After it, at a glance'
                : openedIndex >= 0
                  ? `After it · ${pictureTitle(right)}`
                  : sideTitle(sides.right, right)
            }
          />
          <div
            role="group"
            aria-label="How the map is shown"
            className="absolute top-2.5 right-2.5 left-2.5 z-10 flex flex-wrap items-center gap-x-2.5 gap-y-1.5"
          >
            <Chips
              label="Channels"
              options={channelViews.map((value) => ({ value, label: channelTitles[value] }))}
              value={channel}
              onChange={setChannel}
            />
            <Chip pressed={difference} onClick={() => setDifference(!difference)} disabled={!left}>
              Difference × 8
            </Chip>
            <Chips
              label="Size on the screen"
              options={[
                { value: 'fit' as Zoom, label: 'Whole' },
                { value: 1 as Zoom, label: '1 : 1' },
                { value: 4 as Zoom, label: '4 : 1' },
              ]}
              value={zoom}
              onChange={setZoom}
            />
            <label className="chip flex items-center gap-1.5">
              Mip
              <select
                className="bg-transparent"
                value={level}
                onChange={(event) => setLevel(Number(event.target.value))}
              >
                {Array.from({ length: right?.levels ?? 1 }, (_, each) => (
                  <option key={each} value={each}>
                    {each}: {Math.max(1, (map?.width ?? 1) >> each)} × {Math.max(1, (map?.height ?? 1) >> each)}
                  </option>
                ))}
              </select>
            </label>
            {openedIndex < 0 && map && (
              <>
                <SideChooser
                  label="Left"
                  value={sides.left}
                  codecs={codecsFor(rulebook, map)}
                  onChange={(value) => setSides({ ...sides, left: value })}
                />
                <SideChooser
                  label="Right"
                  value={sides.right}
                  codecs={codecsFor(rulebook, map)}
                  onChange={(value) => setSides({ ...sides, right: value })}
                />
              </>
            )}
            <Chip pressed={repeat} onClick={() => setRepeat(!repeat)}>
              Repeated
            </Chip>
            {kind.mesh !== null && (
              <Chips
                label="UVs"
                options={layoutViews.map((value) => ({ value, label: layoutTitles[value] }))}
                value={layoutView}
                onChange={setLayoutView}
              />
            )}
          </div>
          {layout && map && layoutView !== 'none' && (
            <p className="chip absolute bottom-11 left-3 z-10 flex items-center gap-2.5">
              <span>
                <b className="num">{Math.round(layout.covered * 100)} %</b> covered,{' '}
                <b className="num">{(layout.overlap * 100).toFixed(0)} %</b> of it by several
              </span>
              <button
                type="button"
                className="link"
                onClick={() =>
                  download(new TextEncoder().encode(layout.svg), `${map.name}_layout.svg`, 'image/svg+xml')
                }
              >
                SVG to paint on
              </button>
              <button type="button" className="link" onClick={() => void downloadLayoutPng(layout.svg, map)}>
                PNG
              </button>
            </p>
          )}
        </div>
        {card && cards && field?.type === 'cards' && (
          <PunchedCard
            card={card}
            field={field}
            file={map && map.role === card.output ? map.name : `${card.material}, ${card.output}`}
            format={map?.codec ? `DDS · ${map.codec.toUpperCase()}` : card.output}
            onChange={(next) =>
              void send({
                do: 'edit-step',
                item: item.id,
                entry: cards.id,
                parameters: { ...cards.parameters, cards: cardValues.map((each) => (each === card ? next : each)) },
              })
            }
          />
        )}
      </div>
    </section>
  )
}

/** What was known last stays while it is worked out anew. */
function useLastKnown<T>(value: T | null): T | null {
  const [last, setLast] = useState(value)
  if (value !== null && value !== last) setLast(value)
  return value ?? last
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
