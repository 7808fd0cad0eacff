import { useFrame } from '@react-three/fiber'

/** Draws the left of the wipe with what is in layer 1, the right with what is in layer 2. `wipe` runs from 0 to 1. */
export function WipeRenderer({ wipe }: { wipe: number }) {
  useFrame(({ gl, scene, camera, size }) => {
    const cut = Math.round(size.width * wipe)
    gl.setScissorTest(true)
    for (const [layer, from, width] of [[1, 0, cut], [2, cut, size.width - cut]] as const) {
      if (width <= 0) continue
      gl.setScissor(from, 0, width, size.height)
      camera.layers.set(0)
      camera.layers.enable(layer)
      gl.render(scene, camera)
    }
    gl.setScissorTest(false)
    camera.layers.enableAll()
  }, 1)
  return null
}
