import { Canvas } from '@react-three/fiber'
import { useMemo, useState, type ComponentProps, type RefObject } from 'react'
import { Matrix4, Object3D } from 'three'
import type { CompareMode } from './yard-view'
import type { Difference, Ladder } from '../workers/messages'
import type { SceneData } from '../workers/scene-data'
import { BendHandles } from './bend-handles'
import { Brush } from './brush'
import { CameraRig } from './camera-rig'
import { CompanionThing, type CompanionShape } from './companion'
import { CompareRenderer } from './compare-renderer'
import { PlayScene } from './play/play-scene'
import { arrowLabels, EventArrows } from './event-arrows'
import { DecalFrame } from './decal-frame'
import { LevelPlayer } from './level-player'
import { PickedFaces, PickedPoints, Spots } from './marks'
import { Model, type ShownMesh } from './model'
import { ItemLights } from './item-lights'
import { LabelPlacer, type Labelled } from './label-placer'
import { AreaPicker, type Area } from './picker'
import { Places } from './places'
import { SolidFrame } from './solid-frame'
import { StandOutsView } from './stand-outs'
import { boxOf } from './yard-framing'
import { cellFor, longestOf, referenceFor, referencePlace } from './reference'
import { Brackets, DimensionLines, dimensionsOf, Ground, ReferenceThing, referenceLabel } from './surroundings'
import { TurnedToViewer } from './turned-to-viewer'
import type { Framing, YardLook, YardSpace } from './yard-settings'

/** How the item is drawn. */
export interface ShownItem {
  scene: SceneData
  look: YardLook
  mesh?: ShownMesh
  stretch?: { axis: 0 | 1 | 2; factor: number } | null
  difference?: Difference | null
  rung?: Ladder['levels'][number] | null
  /** Which of the item's looks is drawn; null for the first. */
  shownLook?: string | null
  /** Whether it is dusk, so that the item's own lights are seen. */
  dusk?: boolean
  /** Whether it is turned to who looks, where its kind is. */
  turned?: boolean
}

/** Two states set against each other: the other one, where it stands, and how. */
export interface Comparison {
  scene: SceneData
  placement: readonly number[]
  mode: CompareMode
  wipe: number
  showLeft: boolean
}

/** What is pointed out on the item. */
export interface YardMarks {
  selected?: string | null
  /** Parts that are picked, shown like the selected one. */
  picked?: ReadonlySet<string>
  spots?: readonly [number, number, number][]
  /** What was clicked for a step: points, or the triangles that picks stand for. */
  points?: readonly [number, number, number][]
  faces?: Float32Array | null
  /** Solids in the colours of where they stand out. */
  standOuts?: ComponentProps<typeof StandOutsView> | null
  /** Whether events are drawn as arrows between what they link. */
  events?: boolean
}

/** What hands do on the item. */
export interface YardHands {
  /** Told of a part that was clicked, and where. */
  onPick?: ((part: string, point: [number, number, number]) => void) | null
  /** Filled with a function that tells which parts lie in an area of the picture. */
  picker?: RefObject<((area: Area) => string[]) | null>
  /** Collision shapes that are placed by hand. */
  shapes?: ComponentProps<typeof SolidFrame> | null
  /** A picture that is placed by hand. */
  placed?: ComponentProps<typeof DecalFrame> | null
  /** A brush that paints over faces, instead of clicks. */
  brush?: ComponentProps<typeof Brush> | null
}

export interface YardProps {
  shown: ShownItem
  comparison?: Comparison | null
  marks?: YardMarks
  hands?: YardHands
  companion?: { shape: CompanionShape; inside: boolean; hungOn: string | null } | null
  levels?: Omit<ComponentProps<typeof LevelPlayer>, 'distance'> & { distance: number | null }
  /** Whether the figure walks and things move; the item is then drawn where the physics has it. */
  playing?: boolean
  showSizes: boolean
  framing: Framing
  space: YardSpace
  label: string
}

const MOST_BRACKETS = 60
/** Labels of places; more of them hide the item. */
const MOST_LABELLED = 12
const nothing: ReadonlySet<string> = new Set()
const identity = new Matrix4().toArray()

/**
 * The place where items stand: ground, figure, light, and the item in one of its looks. Drawn only when something
 * changes.
 */
export default function Yard({
  shown,
  comparison = null,
  marks = {},
  hands = {},
  companion = null,
  levels,
  playing = false,
  showSizes,
  framing,
  space,
  label,
}: YardProps) {
  const { scene: result, look } = shown
  const { selected = null, picked: names = nothing } = marks
  const [keys, setKeys] = useState<HTMLDivElement | null>(null)
  const [labels, setLabels] = useState<HTMLDivElement | null>(null)
  const box = useMemo(() => boxOf(result), [result])
  const otherPlacement = useMemo(
    () => new Matrix4().fromArray(comparison?.placement ?? identity),
    [comparison?.placement],
  )
  const bracketed = result.parts
    .filter((part) => part.name === selected || names.has(part.name))
    .slice(0, MOST_BRACKETS)
  const longest = longestOf(box)
  const reference = useMemo(() => referenceFor(longest, space), [longest, space])
  const reach = Math.max(longest, reference.height)
  const place = useMemo(() => referencePlace(box, space), [box, space])
  const lit = useMemo(() => {
    const middle = new Object3D()
    middle.position.set((box.min[0] + place[0]) / 2, place[1], (box.min[2] + box.max[2]) / 2)
    middle.updateMatrixWorld()
    return middle
  }, [box, place])
  const dimensions = useMemo(
    () => (showSizes && result.parts.length > 0 ? dimensionsOf(box, space) : []),
    [showSizes, result, box, space],
  )
  const { places } = result
  const labelled: readonly Labelled[] = useMemo(
    () => [
      ...(marks.events ? arrowLabels(result.links, longest) : []),
      ...dimensions,
      ...(playing || !showSizes || reference.what === 'figure' ? [] : [referenceLabel(reference, place)]),
      ...(playing
        ? []
        : places.slice(0, MOST_LABELLED).map(({ name, joins, at }) => ({
            text: joins ? `${name} · ${joins}` : name,
            from: at,
            to: at,
            above: true,
          }))),
    ],
    [dimensions, places, playing, showSizes, reference, place, marks.events, result, longest],
  )
  return (
    <div
      ref={setKeys}
      data-yard
      tabIndex={0}
      role="application"
      aria-label={label}
      aria-describedby="yard-keys"
      className="absolute inset-0"
    >
      <span id="yard-keys" className="sr-only">
        Arrow keys turn the view, plus and minus move closer and away.
      </span>
      <Canvas
        frameloop="demand"
        shadows="percentage"
        dpr={[0.5, 1]}
        camera={{ fov: 35 }}
        gl={{ antialias: !navigator.webdriver, preserveDrawingBuffer: false }}
      >
        <hemisphereLight args={[0xffffff, 0x8d8a7c, shown.dusk ? 0.16 : 1.5]} />
        <directionalLight
          key={reach}
          position={[lit.position.x + reach * 0.9, place[1] + reach * 1.6, lit.position.z + reach * 1.1]}
          target={lit}
          intensity={shown.dusk ? 0.12 : 2.2}
          castShadow
          shadow-mapSize={[1024, 1024]}
          shadow-bias={-0.0008}
          shadow-normalBias={reach * 0.002}
          shadow-camera-left={-reach}
          shadow-camera-right={reach}
          shadow-camera-top={reach}
          shadow-camera-bottom={-reach}
          shadow-camera-far={reach * 6}
          shadow-camera-near={0.01}
        />
        {shown.dusk && <ItemLights lights={result.lights} />}
        <Ground cell={cellFor(longest, space)} reach={reach} at={[place[0], place[1], place[2]]} />
        {playing ? (
          <PlayScene space={space} scene={result} look={look === 'solids' ? 'solids' : 'seen'} keys={keys} />
        ) : (
          <ReferenceThing reference={reference} space={space} at={place} />
        )}
        {!playing && (
          <TurnedToViewer scene={result} on={shown.turned ?? false}>
            <Model
              {...shown}
              layer={comparison ? 2 : 0}
              selected={selected}
              picked={names}
              onPick={hands.brush ? null : (hands.onPick ?? null)}
            />
          </TurnedToViewer>
        )}
        {comparison && (
          <Model
            scene={comparison.scene}
            look={look === 'shift' ? 'seen' : look}
            layer={1}
            placement={otherPlacement}
            selected={null}
            picked={nothing}
            onPick={null}
          />
        )}
        {marks.events && !playing && <EventArrows links={result.links} reach={longest} />}
        {companion && (
          <CompanionThing
            shape={companion.shape}
            box={box}
            inside={companion.inside}
            hungOn={result.places.find(({ name }) => name === companion.hungOn) ?? null}
            space={space}
          />
        )}
        <Marks {...marks} />
        {result.bend && look === 'held' && !playing && (
          <BendHandles scene={result} bend={result.bend} reach={longest} />
        )}
        {hands.placed && <DecalFrame {...hands.placed} />}
        {hands.shapes && <SolidFrame {...hands.shapes} />}
        {hands.brush && <Brush {...hands.brush} />}
        {!playing && <Places places={places} reach={reach} />}
        <DimensionLines dimensions={dimensions} />
        <LabelPlacer labelled={labelled} layer={labels} />
        {bracketed.map((part) => (
          <Brackets key={part.name} box={part.bounds} />
        ))}
        {hands.picker && <AreaPicker scene={result} picker={hands.picker} />}
        {comparison && <CompareRenderer {...comparison} />}
        <CameraRig framing={framing} isLed={playing} keys={keys} />
        {levels && <LevelPlayer {...levels} />}
      </Canvas>
      <div ref={setLabels} className="pointer-events-none absolute inset-0 overflow-hidden">
        {labelled.map(({ text }, index) => (
          <span key={index} className="chip num invisible absolute top-0 left-0 font-semibold whitespace-nowrap">
            {text}
          </span>
        ))}
      </div>
    </div>
  )
}

/** Points, faces and places that are pointed out, and solids in colours. */
function Marks({ spots = [], points = [], faces = null, standOuts = null }: YardMarks) {
  return (
    <>
      {spots.length > 0 && <Spots places={spots} />}
      {points.length > 0 && <PickedPoints points={points} />}
      {faces && faces.length > 0 && <PickedFaces corners={faces} />}
      {standOuts && <StandOutsView {...standOuts} />}
    </>
  )
}
