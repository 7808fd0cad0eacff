import { WebGLRenderer } from 'three'
import { drawViews, usualView } from './snapshot'
import { sceneDataSchema } from '../workers/scene-data'
import { serve } from '../workers/serve'

const LONGEST_PIXELS = 168

/** One card context for all pictures: browsers allow only a few. */
let renderer: WebGLRenderer | null = null

async function draw(rawScene: unknown): Promise<Uint8Array> {
  const scene = sceneDataSchema.parse(rawScene)
  const canvas = (renderer?.domElement as OffscreenCanvas | undefined) ?? new OffscreenCanvas(2, 2)
  renderer ??= new WebGLRenderer({ canvas, alpha: true, antialias: true, preserveDrawingBuffer: true })
  drawViews(renderer, scene, [usualView], LONGEST_PIXELS, () => undefined)
  const blob = await canvas.convertToBlob({ type: 'image/png' })
  return new Uint8Array(await blob.arrayBuffer())
}

let last: Promise<unknown> = Promise.resolve()

/** Draws small pictures of items beside the page, so that a list of them never holds it up. */
const endpoint = {
  /** A PNG of a scene. One is written before the next is drawn: browsers put writing off while there is work to do. */
  picture(rawScene: unknown): Promise<Uint8Array> {
    const drawn = last.then(() => draw(rawScene))
    last = drawn.catch(() => undefined)
    return drawn
  },
}

export type PictureEndpoint = typeof endpoint
serve(endpoint)
