import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { BufferAttribute, Matrix4, MeshBasicMaterial, MeshStandardMaterial, type Group, type Material } from 'three'
import type { Difference, Ladder } from '../workers/messages'
import type { SceneData, ScenePart } from '../workers/scene-data'
import { makeFacingMaterial } from './facing-material'
import { BendPlayer } from './bend-player'
import { makeHeldMaterial } from './held-material'
import { MotionPlayer } from './motion-player'
import { makeSolidHatch } from './solid-hatch'
import { drawItem, type DrawnPrimitive } from '../drawing/item-geometry'
import { shiftColours } from './shift-colours'
import type { YardLook } from './yard-settings'

/** What is shown of an item: its full mesh, one of its levels, or the mesh that throws its shadow. */
export type ShownMesh = number | 'shadow'

interface ModelProps {
  scene: SceneData
  look: YardLook
  /** Layer of the camera that shows it: 1 and 2 for the two sides of a comparison. */
  layer: number
  /** Moves the model to where the result stands. */
  placement?: Matrix4
  selected: string | null
  picked: ReadonlySet<string>
  onPick: ((part: string, point: [number, number, number]) => void) | null
  mesh?: ShownMesh
  /** Each part drawn out about its own middle, as the game does with single nodes. */
  stretch?: { axis: 0 | 1 | 2; factor: number } | null
  /** How far each corner lies from the source, for the look that shows it. */
  difference?: Difference | null
  /** Fewer triangles of the same corners, while a slider is dragged. */
  rung?: Ladder['levels'][number] | null
  /** Which of the item's looks is drawn; null for the first. */
  shownLook?: string | null
}

const identity = new Matrix4()

/** An item in one of the yard's looks. */
export function Model({
  scene,
  look,
  layer,
  placement = identity,
  selected,
  picked,
  onPick,
  mesh = 0,
  stretch = null,
  difference = null,
  rung = null,
  shownLook = null,
}: ModelProps) {
  const invalidate = useThree((state) => state.invalidate)
  const drawn = useMemo(() => drawItem(scene, shownLook), [scene, shownLook])
  useEffect(() => drawn.dispose, [drawn])
  const model = useRef<Group | null>(null)
  const extras = useMemo(() => makeExtraMaterials(), [])
  useEffect(() => () => Object.values(extras).forEach((material) => material.dispose()), [extras])

  useLayoutEffect(() => {
    for (const primitive of drawn.primitives) {
      const distances = difference?.parts.find((part) => part.name === primitive.part)?.distances[primitive.surface]
      if (!distances || distances.length * 3 !== primitive.geometry.getAttribute('position').array.length)
        primitive.geometry.deleteAttribute('color')
      else
        primitive.geometry.setAttribute(
          'color',
          new BufferAttribute(shiftColours(distances, difference?.worst ?? 0), 3),
        )
    }
    invalidate()
  }, [drawn, difference, invalidate])

  useLayoutEffect(() => {
    if (!rung) return
    const began = performance.now()
    for (const primitive of drawn.primitives) {
      const indices = rung.parts.find((part) => part.name === primitive.part)?.surfaces[primitive.surface]
      if (indices && primitive.role === 'part') primitive.geometry.setIndex(new BufferAttribute(indices, 1))
    }
    performance.measure('reduction shown', { start: began, end: performance.now() })
    invalidate()
  }, [drawn, rung, invalidate])

  const shown = drawn.primitives.filter(
    (primitive) => isShown(primitive, mesh) || (look === 'solids' && primitive.role === 'solid'),
  )
  return (
    <group ref={model} matrix={placement} matrixAutoUpdate={false}>
      {scene.bend && !stretch && <BendPlayer scene={scene} bend={scene.bend} drawn={drawn} model={model} />}
      {scene.motion && !stretch && <MotionPlayer scene={scene} drawn={drawn} model={model} leads={layer !== 1} />}
      {shown.map((primitive) => (
        <Primitive
          key={primitive.key}
          primitive={primitive}
          look={look}
          layer={layer}
          extras={extras}
          picked={selected === primitive.part || picked.has(primitive.part)}
          onPick={onPick}
          measured={difference !== null}
          held={scene.bend?.held.some(({ part }) => part === primitive.part) ?? false}
          matrix={
            stretch
              ? stretched(
                  primitive.matrix,
                  scene.parts.find((part) => part.name === primitive.part),
                  stretch,
                )
              : primitive.matrix
          }
        />
      ))}
    </group>
  )
}

function isShown({ role, level }: DrawnPrimitive, mesh: ShownMesh): boolean {
  if (mesh === 'shadow') return role === 'shadow'
  return mesh === 0 ? role === 'part' : role === 'level' && level === mesh
}

/** The part drawn out along one axis about the middle of its own box. */
function stretched(
  matrix: Matrix4,
  part: ScenePart | undefined,
  { axis, factor }: { axis: 0 | 1 | 2; factor: number },
): Matrix4 {
  if (!part) return matrix
  const middle = [0, 1, 2].map((each) =>
    each === 1 ? part.bounds.min[1] : (part.bounds.min[each] + part.bounds.max[each]) / 2,
  )
  const scale = [0, 1, 2].map((each) => (each === axis ? factor : 1))
  return new Matrix4()
    .makeTranslation(middle[0], middle[1], middle[2])
    .multiply(new Matrix4().makeScale(scale[0], scale[1], scale[2]))
    .multiply(new Matrix4().makeTranslation(-middle[0], -middle[1], -middle[2]))
    .multiply(matrix)
}

type ExtraMaterials = Record<
  'facing' | 'held' | 'wire' | 'ghost' | 'solid' | 'solidEdges' | 'picked' | 'shift' | 'clay',
  Material
>

function makeExtraMaterials(): ExtraMaterials {
  return {
    facing: makeFacingMaterial(),
    held: makeHeldMaterial(),
    wire: new MeshBasicMaterial({ color: 0x26302d, wireframe: true, transparent: true, opacity: 0.55 }),
    ghost: new MeshBasicMaterial({ color: 0x8b9089, transparent: true, opacity: 0.16, depthWrite: false }),
    solid: makeSolidHatch(),
    solidEdges: new MeshBasicMaterial({
      color: 0x1d5a4c,
      wireframe: true,
      transparent: true,
      opacity: 0.22,
      depthWrite: false,
    }),
    picked: new MeshBasicMaterial({ color: 0xc8a572, transparent: true, opacity: 0.45, depthTest: false }),
    shift: new MeshStandardMaterial({ vertexColors: true, roughness: 1 }),
    clay: new MeshStandardMaterial({ color: 0xb9b2a4, roughness: 1, flatShading: true }),
  }
}

interface PrimitiveProps {
  primitive: DrawnPrimitive
  look: YardLook
  layer: number
  extras: ExtraMaterials
  picked: boolean
  /** Whether its corners have colours for how far they moved. */
  measured: boolean
  /** Whether bones hold it. */
  held: boolean
  matrix: Matrix4
  onPick: ModelProps['onPick']
}

function Primitive({ primitive, look, layer, extras, picked, measured, held, matrix, onPick }: PrimitiveProps) {
  const coats = coatsOf(primitive, look, extras, { picked, measured, held })
  const click = onPick
    ? (event: ThreeEvent<MouseEvent>): void => {
        event.stopPropagation()
        // A drag that turned the view ends in a click too.
        if (event.delta < 4) onPick(primitive.part, event.point.toArray())
      }
    : undefined
  return coats.map((material, index) => (
    <mesh
      key={index}
      geometry={primitive.geometry}
      material={material}
      matrix={matrix}
      matrixAutoUpdate={false}
      layers={layer}
      castShadow={index === 0 && look === 'seen' && primitive.throwsShadow}
      receiveShadow={index === 0 && look === 'seen' && primitive.receivesShadow}
      renderOrder={index}
      userData={{ ...(index === 0 ? { part: primitive.part } : {}), moves: primitive.part }}
      onClick={index === 0 ? click : undefined}
    />
  ))
}

/** Few enough triangles for their edges to help: those of a dense mesh would cover its hatch. */
const isPlain = ({ geometry }: DrawnPrimitive): boolean => (geometry.getIndex()?.count ?? 0) <= 240 * 3

function coatsOf(
  primitive: DrawnPrimitive,
  look: YardLook,
  extras: ExtraMaterials,
  { picked, measured, held }: Pick<PrimitiveProps, 'picked' | 'measured' | 'held'>,
): Material[] {
  const seen = primitive.role === 'shadow' ? extras.clay : primitive.material
  const base: Record<YardLook, Material[]> = {
    seen: [seen],
    facing: [extras.facing],
    edges: [seen, extras.wire],
    held: [held ? extras.held : extras.clay],
    shift: [measured ? extras.shift : extras.clay],
    solids:
      primitive.role === 'solid'
        ? isPlain(primitive)
          ? [extras.solid, extras.solidEdges]
          : [extras.solid]
        : [extras.ghost],
  }
  return picked ? [...base[look], extras.picked] : base[look]
}
