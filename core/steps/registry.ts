import { PlainError } from '../support/plain-error.ts'
import { addBendRows } from './motion/add-bend-rows.ts'
import { addSolid } from './solids/add-solid.ts'
import { arrangeBones } from './motion/arrange-bones.ts'
import { assignWeights } from './motion/assign-weights.ts'
import { borrowBehaviour } from './pack/borrow-behaviour.ts'
import { bakeMaps } from './surface/bake-maps.ts'
import { bakeNormals } from './surface/bake-normals.ts'
import { bakeOcclusion } from './surface/bake-occlusion.ts'
import { bakeTransforms } from './fit/bake-transforms.ts'
import { changeSolid } from './solids/change-solid.ts'
import { clearTinyEdges } from './mesh/clear-tiny-edges.ts'
import { cleanMesh } from './mesh/clean-mesh.ts'
import { chooseClips } from './motion/choose-clips.ts'
import { cleanNames } from './surface/clean-names.ts'
import { compressMaps } from './surface/compress-maps.ts'
import { cutClip } from './motion/cut-clip.ts'
import { cutMask } from './surface/cut-mask.ts'
import { doubleSolid } from './solids/double-solid.ts'
import { dropHidden } from './mesh/drop-hidden.ts'
import { dropStrays } from './intake/drop-strays.ts'
import { evenNormalsStep } from './mesh/even-normals.ts'
import { evenTriangulationStep } from './mesh/even-triangulation.ts'
import { faceViewer } from './motion/face-viewer.ts'
import { finishTrays } from './surface/finish-trays.ts'
import { fitSolids } from './solids/fit-solids.ts'
import { flipFaces } from './mesh/flip-faces.ts'
import { foldMaterials } from './surface/fold-materials.ts'
import { foldMaps } from './surface/fold-maps.ts'
import { gatherParts } from './mesh/gather-parts.ts'
import { holdStill } from './fit/hold-still.ts'
import { groupParts } from './motion/group-parts.ts'
import { joinParts } from './mesh/join-parts.ts'
import { keepParts } from './intake/keep-parts.ts'
import { layDecal } from './surface/lay-decal.ts'
import { levelsAndShadow } from './mesh/levels-and-shadow.ts'
import { linkEventsStep } from './pack/link-events.ts'
import { limitWeightsStep } from './motion/limit-weights.ts'
import { makeMotion } from './motion/make-motion.ts'
import { makeBones } from './motion/make-bones.ts'
import { mergeMaterials } from './surface/merge-materials.ts'
import { mergeSolids } from './solids/merge-solids.ts'
import { mirror } from './fit/mirror.ts'
import { mirrorWeightsStep } from './motion/mirror-weights.ts'
import { packChannels } from './surface/pack-channels.ts'
import { padIslands } from './surface/pad-islands.ts'
import { placeMarkers } from './motion/place-markers.ts'
import { placeOrigin } from './fit/place-origin.ts'
import { plainTints } from './surface/plain-tints.ts'
import { plainColours } from './surface/plain-colours.ts'
import { putLight } from './motion/put-light.ts'
import { putPoint } from './motion/put-point.ts'
import { putInPicture } from './surface/put-in-picture.ts'
import { putIntoHost } from './motion/put-into-host.ts'
import { readRoles } from './surface/read-roles.ts'
import { recogniseGroups } from './motion/recognise-groups.ts'
import { recognisePoints } from './motion/recognise-points.ts'
import { recogniseSolids } from './intake/recognise-solids.ts'
import { recolourLooks } from './surface/recolour-looks.ts'
import { reduce } from './mesh/reduce-triangles.ts'
import { sampleMotion } from './motion/sample-motion.ts'
import { scaleToGame } from './fit/scale-to-game.ts'
import { setSize } from './fit/set-size.ts'
import { sayWhatJoins } from './motion/say-what-joins.ts'
import { settlePoints } from './motion/settle-points.ts'
import { layFinish } from './surface/lay-finish.ts'
import { shareMaterial } from './surface/share-material.ts'
import { shrinkMaps } from './surface/shrink-maps.ts'
import { sizeMaps } from './surface/size-maps.ts'
import { smoothWeightsStep } from './motion/smooth-weights.ts'
import { sortIntoTrays } from './mesh/sort-into-trays.ts'
import { spanLine } from './motion/span-line.ts'
import { splitParts } from './mesh/split-parts.ts'
import { standInColours } from './surface/stand-in-colours.ts'
import { standAsClipsBegin } from './motion/stand-as-clips-begin.ts'
import type { AnyStep } from './step.ts'
import { tagMaterials } from './surface/tag-materials.ts'
import { tellBodies } from './mesh/tell-bodies.ts'
import { triangulate } from './mesh/triangulate.ts'
import { turnAxes } from './fit/turn-axes.ts'
import { turnNormalMaps } from './surface/turn-normal-maps.ts'
import { turnOutward } from './mesh/turn-outward.ts'
import { twoSided } from './mesh/two-sided.ts'
import { unwrap } from './surface/unwrap.ts'
import { useAsLevel } from './mesh/use-as-level.ts'
import { weld } from './mesh/weld.ts'
import { writeEntry } from './pack/write-entry.ts'

/** Every step there is, in the order in which “Prepare for me” tries them. */
export const steps: readonly AnyStep[] = [
  keepParts,
  dropStrays,
  recogniseSolids,
  recognisePoints,
  chooseClips,
  cutClip,
  standAsClipsBegin,
  recogniseGroups,
  holdStill,
  turnAxes,
  scaleToGame,
  setSize,
  mirror,
  faceViewer,
  spanLine,
  makeBones,
  arrangeBones,
  bakeTransforms,
  placeOrigin,
  triangulate,
  useAsLevel,
  splitParts,
  weld,
  cleanMesh,
  evenTriangulationStep,
  flipFaces,
  tellBodies,
  turnOutward,
  dropHidden,
  twoSided,
  assignWeights,
  mirrorWeightsStep,
  smoothWeightsStep,
  addBendRows,
  limitWeightsStep,
  joinParts,
  reduce,
  evenNormalsStep,
  gatherParts,
  standInColours,
  readRoles,
  turnNormalMaps,
  shrinkMaps,
  shareMaterial,
  layFinish,
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
  plainTints,
  sortIntoTrays,
  clearTinyEdges,
  recolourLooks,
  cleanNames,
  tagMaterials,
  finishTrays,
  mergeMaterials,
  sizeMaps,
  padIslands,
  compressMaps,
  groupParts,
  makeMotion,
  sampleMotion,
  placeMarkers,
  putPoint,
  putLight,
  settlePoints,
  sayWhatJoins,
  fitSolids,
  addSolid,
  doubleSolid,
  mergeSolids,
  changeSolid,
  putIntoHost,
  borrowBehaviour,
  writeEntry,
  linkEventsStep,
]

const byId = new Map(steps.map((step) => [step.id, step]))

/**
 * A step by its id.
 * @throws PlainError when this version has no such step
 *
 * @example const { title } = stepById(entry.step)
 */
export function stepById(id: string): AnyStep {
  const step = byId.get(id)
  if (!step) throw new PlainError('this version has no such step', `step “${id}”`, 'Remove it from the worklist.')
  return step
}
