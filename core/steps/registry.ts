import { PlainError } from '../document/plain-error.ts'
import { addSolid } from './add-solid.ts'
import { bakeMaps } from './bake-maps.ts'
import { bakeNormals } from './bake-normals.ts'
import { bakeOcclusion } from './bake-occlusion.ts'
import { bakeTransforms } from './bake-transforms.ts'
import { changeSolid } from './change-solid.ts'
import { cleanMesh } from './clean-mesh.ts'
import { cleanNames } from './clean-names.ts'
import { compressMaps } from './compress-maps.ts'
import { cutMask } from './cut-mask.ts'
import { doubleSolid } from './double-solid.ts'
import { dropHidden } from './drop-hidden.ts'
import { dropStrays } from './drop-strays.ts'
import { evenNormalsStep } from './even-normals.ts'
import { evenTriangulationStep } from './even-triangulation.ts'
import { flipFaces } from './flip-faces.ts'
import { foldMaterials } from './fold-materials.ts'
import { foldMaps } from './fold-maps.ts'
import { holdStill } from './hold-still.ts'
import { joinParts } from './join-parts.ts'
import { keepParts } from './keep-parts.ts'
import { layDecal } from './lay-decal.ts'
import { levelsAndShadow } from './levels-and-shadow.ts'
import { mergeMaterials } from './merge-materials.ts'
import { mergeSolids } from './merge-solids.ts'
import { mirror } from './mirror.ts'
import { packChannels } from './pack-channels.ts'
import { padIslands } from './pad-islands.ts'
import { placeOrigin } from './place-origin.ts'
import { plainColours } from './plain-colours.ts'
import { putInPicture } from './put-in-picture.ts'
import { readRoles } from './read-roles.ts'
import { recogniseSolids } from './recognise-solids.ts'
import { recolourLooks } from './recolour-looks.ts'
import { reduce } from './reduce-triangles.ts'
import { scaleToGame } from './scale-to-game.ts'
import { setSize } from './set-size.ts'
import { shareMaterial } from './share-material.ts'
import { sizeMaps } from './size-maps.ts'
import { splitParts } from './split-parts.ts'
import type { AnyStep } from './step.ts'
import { tagMaterials } from './tag-materials.ts'
import { triangulate } from './triangulate.ts'
import { turnAxes } from './turn-axes.ts'
import { turnNormalMaps } from './turn-normal-maps.ts'
import { turnOutward } from './turn-outward.ts'
import { twoSided } from './two-sided.ts'
import { unwrap } from './unwrap.ts'
import { useAsLevel } from './use-as-level.ts'
import { weld } from './weld.ts'

/** Every step there is, in the order in which “Prepare for me” tries them. */
export const steps: readonly AnyStep[] = [
  keepParts,
  dropStrays,
  recogniseSolids,
  holdStill,
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
  readRoles,
  turnNormalMaps,
  shareMaterial,
  foldMaterials,
  unwrap,
  bakeMaps,
  plainColours,
  layDecal,
  levelsAndShadow,
  bakeOcclusion,
  bakeNormals,
  putInPicture,
  packChannels,
  cutMask,
  foldMaps,
  recolourLooks,
  cleanNames,
  tagMaterials,
  mergeMaterials,
  sizeMaps,
  padIslands,
  compressMaps,
  addSolid,
  doubleSolid,
  mergeSolids,
  changeSolid,
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
