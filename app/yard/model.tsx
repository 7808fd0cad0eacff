import type { ThreeEvent } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { Matrix4, MeshBasicMaterial, type Material } from 'three'
import type { SceneData } from '../workers/scene-data'
import { makeFacingMaterial } from './facing-material'
import { drawItem, type DrawnPrimitive } from './item-geometry'
import type { YardLook } from './yard-settings'

interface ModelProps {
  scene: SceneData
  look: YardLook
  /** Layer of the camera that shows it: 1 on the left of the wipe, 2 on the right. */
  layer: number
  /** Moves the model to where the result stands. */
  placement?: Matrix4
  selected: string | null
  picked: ReadonlySet<string>
  onPick: ((part: string) => void) | null
}

const identity = new Matrix4()

/** An item in one of the yard's looks. */
export function Model({ scene, look, layer, placement = identity, selected, picked, onPick }: ModelProps) {
  const drawn = useMemo(() => drawItem(scene), [scene])
  useEffect(() => drawn.dispose, [drawn])
  const extras = useMemo(() => makeExtraMaterials(), [])
  useEffect(() => () => Object.values(extras).forEach((material) => material.dispose()), [extras])
  const shown = drawn.primitives.filter((primitive) => primitive.role === 'part' || (look === 'solids' && primitive.role === 'solid'))
  return (
    <group matrix={placement} matrixAutoUpdate={false}>
      {shown.map((primitive) => (
        <Primitive key={primitive.key} primitive={primitive} look={look} layer={layer} extras={extras} picked={selected === primitive.part || picked.has(primitive.part)} onPick={onPick} />
      ))}
    </group>
  )
}

type ExtraMaterials = Record<'facing' | 'wire' | 'ghost' | 'solid' | 'solidEdges' | 'picked', Material>

function makeExtraMaterials(): ExtraMaterials {
  return {
    facing: makeFacingMaterial(),
    wire: new MeshBasicMaterial({ color: 0x26302d, wireframe: true, transparent: true, opacity: 0.55 }),
    ghost: new MeshBasicMaterial({ color: 0x8b9089, transparent: true, opacity: 0.16, depthWrite: false }),
    solid: new MeshBasicMaterial({ color: 0x2f7866, transparent: true, opacity: 0.35, depthWrite: false }),
    solidEdges: new MeshBasicMaterial({ color: 0x1d5a4c, wireframe: true }),
    picked: new MeshBasicMaterial({ color: 0xc8a572, transparent: true, opacity: 0.45, depthTest: false }),
  }
}

interface PrimitiveProps {
  primitive: DrawnPrimitive
  look: YardLook
  layer: number
  extras: ExtraMaterials
  picked: boolean
  onPick: ((part: string) => void) | null
}

function Primitive({ primitive, look, layer, extras, picked, onPick }: PrimitiveProps) {
  const coats = coatsOf(primitive, look, extras, picked)
  const click = onPick
    ? (event: ThreeEvent<MouseEvent>): void => {
        event.stopPropagation()
        // A drag that turned the view ends in a click too.
        if (event.delta < 4) onPick(primitive.part)
      }
    : undefined
  return coats.map((material, index) => (
    <mesh
      key={index}
      geometry={primitive.geometry}
      material={material}
      matrix={primitive.matrix}
      matrixAutoUpdate={false}
      layers={layer}
      castShadow={index === 0 && look === 'seen'}
      receiveShadow={index === 0 && look === 'seen'}
      renderOrder={index}
      onClick={index === 0 ? click : undefined}
    />
  ))
}

function coatsOf(primitive: DrawnPrimitive, look: YardLook, extras: ExtraMaterials, picked: boolean): Material[] {
  const base: Record<YardLook, Material[]> = {
    seen: [primitive.material],
    facing: [extras.facing],
    edges: [primitive.material, extras.wire],
    solids: primitive.role === 'solid' ? [extras.solid, extras.solidEdges] : [extras.ghost],
  }
  return picked ? [...base[look], extras.picked] : base[look]
}
