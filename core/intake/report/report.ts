import { checkBones, checkFaces, checkNames, checkParts, checkStrays } from './parts.ts'
import { checkMotion } from './motion.ts'
import type { Oddity, OddityCheck, ReportContext } from './oddity.ts'
import { checkFiles, checkTextures, checkUnusedMaterials } from './textures.ts'
import { checkUnit } from './units.ts'

/** Every check on a source, in the order in which they are told. */
const checks: readonly OddityCheck[] = [
  checkUnit,
  checkStrays,
  checkParts,
  checkBones,
  checkFaces,
  checkTextures,
  checkUnusedMaterials,
  checkFiles,
  checkMotion,
  checkNames,
]

/**
 * What looks off in a source, as it came. Changes nothing.
 * @example for (const { message } of findOddities(context)) console.error(message)
 */
export const findOddities = (context: ReportContext): Oddity[] => checks.flatMap((check) => check(context))
