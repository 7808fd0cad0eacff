import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, box, paintedMaterial, yUp } from './glb-shapes.ts'
import { bronzeColour, ironColour, timberColour } from './paint.ts'
import { turned } from './solid-shapes.ts'

const sway = { seconds: 2, keysPerSecond: 48 }

/**
 * The Mooring bell: a post (its scale not baked), an arm that swings at 48 keys a second and
 * does not come back to where it began, a bell on it, and a camera and a lamp left inside.
 */
export async function bellGlb(): Promise<Uint8Array> {
  const document = createDocument('Mooring bell')
  const buffer = document.getRoot().listBuffers()[0]
  const timber = paintedMaterial(document, 'post wood', 256, timberColour)
  const iron = paintedMaterial(document, 'arm iron', 128, ironColour)
  const bronze = paintedMaterial(document, 'bell bronze', 256, bronzeColour)

  const post = document
    .createNode('Post')
    .setMesh(addMesh(document, 'post', yUp(box(20, 20, 190, [2, 2, 12])), timber))
    .setScale([0.01, 0.01, 0.01])
  const arm = document
    .createNode('Swing arm')
    .setMesh(addMesh(document, 'arm', yUp(box(0.9, 0.07, 0.07, [8, 1, 1])), iron))
    .setTranslation([0.35, 1.8, 0])
  const profile: [number, number][] = [
    [0.17, 0],
    [0.16, 0.02],
    [0.12, 0.08],
    [0.09, 0.18],
    [0.075, 0.24],
    [0.03, 0.28],
  ]
  const bell = document
    .createNode('Bell')
    .setMesh(addMesh(document, 'bell', yUp(turned(profile, 32, [2, 0.2])), bronze))
    .setTranslation([0.28, -0.3, 0])
  arm.addChild(bell)

  const count = sway.seconds * sway.keysPerSecond + 1
  const times = Float32Array.from({ length: count }, (_, key) => key / sway.keysPerSecond)
  const turns = new Float32Array(count * 4)
  times.forEach((seconds, key) => {
    const angle = 0.35 * Math.sin((seconds / sway.seconds) * Math.PI * 1.9)
    turns.set([0, Math.sin(angle / 2), 0, Math.cos(angle / 2)], key * 4)
  })
  const sampler = document
    .createAnimationSampler()
    .setInput(document.createAccessor('times').setArray(times).setType('SCALAR').setBuffer(buffer))
    .setOutput(document.createAccessor('turns').setArray(turns).setType('VEC4').setBuffer(buffer))
  const channel = document.createAnimationChannel().setTargetNode(arm).setTargetPath('rotation').setSampler(sampler)
  document.createAnimation('sway').addSampler(sampler).addChannel(channel)

  const camera = document
    .createNode('Camera')
    .setCamera(document.createCamera('Camera').setType('perspective').setYFov(0.8))
    .setTranslation([2, 1.6, 4])
  const lights = document.createExtension(KHRLightsPunctual)
  const lamp = document.createNode('Lamp').setTranslation([1, 3, 1])
  lamp.setExtension('KHR_lights_punctual', lights.createLight('Lamp').setType('point').setIntensity(50))
  const scene = document.getRoot().listScenes()[0]
  for (const node of [post, arm, camera, lamp]) scene.addChild(node)
  return createIO().writeBinary(document)
}
