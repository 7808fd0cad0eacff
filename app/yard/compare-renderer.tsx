import { useFrame, useThree } from '@react-three/fiber'
import { useEffect } from 'react'
import { PerspectiveCamera } from 'three'
import type { CompareMode } from './yard-view'

interface CompareRendererProps {
  mode: CompareMode
  /** Where the wipe stands, 0 to 1. */
  wipe: number
  /** Which of the two is seen while they flicker. */
  showLeft: boolean
}

/**
 * Draws two states of an item with one camera: what is in layer 1 and what is in layer 2, cut along a line, beside each
 * other, or in turn.
 */
export function CompareRenderer({ mode, wipe, showLeft }: CompareRendererProps) {
  const invalidate = useThree((state) => state.invalidate)
  const get = useThree((state) => state.get)
  useEffect(() => invalidate(), [mode, wipe, showLeft, invalidate])
  useEffect(
    () => () => {
      const { gl, camera, size } = get()
      gl.setScissorTest(false)
      gl.setViewport(0, 0, size.width, size.height)
      camera.layers.enableAll()
      if (camera instanceof PerspectiveCamera) setAspect(camera, size.width / size.height)
    },
    [get],
  )
  useFrame(({ gl, scene, camera, size }) => {
    const draw = (layer: number, from: number, width: number, ownView: boolean): void => {
      if (width <= 0) return
      gl.setScissor(from, 0, width, size.height)
      gl.setViewport(ownView ? from : 0, 0, ownView ? width : size.width, size.height)
      if (camera instanceof PerspectiveCamera) setAspect(camera, (ownView ? width : size.width) / size.height)
      camera.layers.set(0)
      camera.layers.enable(layer)
      gl.render(scene, camera)
    }
    gl.setScissorTest(true)
    const half = Math.round(size.width / 2)
    const cut = Math.round(size.width * wipe)
    if (mode === 'side') {
      draw(1, 0, half, true)
      draw(2, half, size.width - half, true)
    } else if (mode === 'flicker') draw(showLeft ? 1 : 2, 0, size.width, false)
    else {
      draw(1, 0, cut, false)
      draw(2, cut, size.width - cut, false)
    }
    gl.setScissorTest(false)
    camera.layers.enableAll()
  }, 1)
  return null
}

function setAspect(camera: PerspectiveCamera, aspect: number): void {
  if (camera.aspect === aspect) return
  camera.aspect = aspect
  camera.updateProjectionMatrix()
}
