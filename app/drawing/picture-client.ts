import * as Comlink from 'comlink'
import { z } from 'zod'
import { sceneTransfers, type SceneData } from '../workers/scene-data'
import { lazyWorker } from '../workers/spawn'
import type { PictureEndpoint } from './picture.worker'

const painter = lazyWorker<PictureEndpoint>(
  () => new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' }),
)

/** A small PNG of a scene, whose arrays go with it. */
export const pictureOf = async (scene: SceneData): Promise<Uint8Array> =>
  z
    .custom<Uint8Array>((value) => value instanceof Uint8Array)
    .parse(await painter.call((api) => api.picture(Comlink.transfer(scene, sceneTransfers(scene)))))
