import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  Group,
  Matrix4,
  Mesh,
  OrthographicCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three'
import { axesTurn } from '../../core/maths/axes'
import type { AxisName } from '../../core/maths/axes'
import type { SceneData } from '../workers/scene-data'
import { drawItem } from './item-geometry'

/** A small picture of an item, and how much of the item's units it spans. */
export interface Snapshot {
  url: string
  /** Width and height of the picture in units of the scene. */
  spans: [number, number]
}

export interface View {
  up: AxisName
  forward: AxisName
  /** Turned a little, so that depth is seen; straight from the front where sizes are compared. */
  askew: boolean
}

const LONGEST_PIXELS = 220

/** Turned a little and from a little above, as one stands before a thing. */
export const usualView: View = { up: '+y', forward: '+z', askew: true }

/** Pictures of one item from several views, drawn off the page and put away again. Empty where nothing can be drawn. */
export function takeSnapshots(data: SceneData, views: readonly View[]): Snapshot[] {
  let renderer: WebGLRenderer
  try {
    renderer = new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true })
  } catch {
    return []
  }
  const pictures: Snapshot[] = []
  drawViews(renderer, data, views, LONGEST_PIXELS, (spans) =>
    pictures.push({ url: renderer.domElement.toDataURL('image/png'), spans }),
  )
  renderer.dispose()
  return pictures
}

/**
 * Draws an item once for each view, as large as it fits.
 * @param onDrawn told after each, while the picture stands on the renderer's canvas: how much of the item it spans
 */
export function drawViews(
  renderer: WebGLRenderer,
  data: SceneData,
  views: readonly View[],
  longestPixels: number,
  onDrawn: (spans: [number, number]) => void,
): void {
  const drawn = drawItem(data)
  const scene = new Scene()
  scene.add(new AmbientLight(new Color(1, 1, 1), 1.6))
  const light = new DirectionalLight(new Color(1, 1, 1), 2.2)
  light.position.set(0.6, 1, 1.2)
  scene.add(light)
  const item = new Group()
  item.matrixAutoUpdate = false
  for (const primitive of drawn.primitives.filter((each) => each.role === 'part')) {
    const mesh = new Mesh(primitive.geometry, primitive.material)
    mesh.matrixAutoUpdate = false
    mesh.matrix.copy(primitive.matrix)
    item.add(mesh)
  }
  scene.add(item)
  for (const view of views) onDrawn(drawView(renderer, scene, item, view, longestPixels))
  drawn.dispose()
}

function drawView(
  renderer: WebGLRenderer,
  scene: Scene,
  item: Group,
  { up, forward, askew }: View,
  longestPixels: number,
): [number, number] {
  item.matrix.fromArray(axesTurn(up, forward, '+y', '+z'))
  if (askew) item.matrix.premultiply(new Matrix4().makeRotationX(0.35).multiply(new Matrix4().makeRotationY(-0.6)))
  item.updateMatrixWorld(true)
  const box = new Box3().setFromObject(item, true)
  const [size, centre] = [box.getSize(new Vector3()), box.getCenter(new Vector3())]
  const [width, height] = [Math.max(size.x, 1e-6), Math.max(size.y, 1e-6)]
  const scale = longestPixels / Math.max(width, height)
  renderer.setSize(Math.max(2, Math.round(width * scale)), Math.max(2, Math.round(height * scale)), false)
  const depth = size.z + 1e-3
  const camera = new OrthographicCamera(-width / 2, width / 2, height / 2, -height / 2, 0, depth * 4)
  camera.position.set(centre.x, centre.y, centre.z + depth * 2)
  renderer.render(scene, camera)
  return [width, height]
}
