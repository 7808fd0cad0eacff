import { PlainError } from '../document/plain-error.ts'
import { addSolid } from './add-solid.ts'
import { bakeTransforms } from './bake-transforms.ts'
import { cleanMesh } from './clean-mesh.ts'
import { cleanNames } from './clean-names.ts'
import { compressMaps } from './compress-maps.ts'
import { dropHidden } from './drop-hidden.ts'
import { dropStrays } from './drop-strays.ts'
import { evenNormalsStep } from './even-normals.ts'
import { evenTriangulationStep } from './even-triangulation.ts'
import { flipFaces } from './flip-faces.ts'
import { joinParts } from './join-parts.ts'
import { keepParts } from './keep-parts.ts'
import { levelsAndShadow } from './levels-and-shadow.ts'
import { mirror } from './mirror.ts'
import { placeOrigin } from './place-origin.ts'
import { reduce } from './reduce-triangles.ts'
import { scaleToGame } from './scale-to-game.ts'
import { setSize } from './set-size.ts'
import { sizeMaps } from './size-maps.ts'
import { splitParts } from './split-parts.ts'
import type { AnyStep } from './step.ts'
import { tagMaterials } from './tag-materials.ts'
import { triangulate } from './triangulate.ts'
import { turnAxes } from './turn-axes.ts'
import { turnOutward } from './turn-outward.ts'
import { twoSided } from './two-sided.ts'
import { useAsLevel } from './use-as-level.ts'
import { weld } from './weld.ts'

/** Every step there is, in the order in which “Prepare for me” tries them. */
export const steps: readonly AnyStep[] = [
  keepParts,
  dropStrays,
  turnAxes,
  scaleToGame,
  setSize,
  mirror,
  bakeTransforms,
  placeOrigin,
  triangulate,
  useAsLevel,
  splitParts,
  weld,
  cleanMesh,
  evenTriangulationStep,
  flipFaces,
  turnOutward,
  dropHidden,
  twoSided,
  joinParts,
  reduce,
  evenNormalsStep,
  levelsAndShadow,
  cleanNames,
  tagMaterials,
  sizeMaps,
  compressMaps,
  addSolid,
]

const byId = new Map(steps.map((step) => [step.id, step]))

/**
 * A step by its id.
 * @throws PlainError when this version has no such step
 */
export function stepById(id: string): AnyStep {
  const step = byId.get(id)
  if (!step) throw new PlainError('this version has no such step', `step “${id}”`, 'Remove it from the worklist.')
  return step
}
